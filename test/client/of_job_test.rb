# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/client'

# Where a state that was is looked at, whatever is asked of that job is asked of that state: what is shown
# and what is taken out of it are of one moment.
class OfJobTest < Miser::Test
  BACK = { job: 'wren125', revision: 7 }.freeze

  def test_addresses_are_of_the_state_looked_at
    cases = {
      { job: 'wren125', rest: 'file', query: { kind: 'job' } } => '/api/jobs/wren125/file?kind=job',
      { job: 'wren125', rest: 'file', query: { kind: 'job' }, back: BACK } => '/api/jobs/wren125/file?kind=job&at=7',
      { job: 'wren125', rest: 'stages/budget', back: BACK } => '/api/jobs/wren125/stages/budget?at=7',
      { job: 'curlew1100', rest: 'stages/budget', back: BACK } => '/api/jobs/curlew1100/stages/budget',
      { job: 'a b/c', rest: 'file', query: { kind: 'a&b' } } => '/api/jobs/a%20b%2Fc/file?kind=a%26b'
    }
    assert_equal cases.values, Miser::Client.run('of_job_run', input: cases.keys)
  end
end
