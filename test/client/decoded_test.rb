# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/client'

# Files that other programs wrote are read as they were meant: encodings by Ruby's own tables.
class DecodedTest < Miser::Test
  # Without a euro sign: Node, which runs this, has a fault there that browsers have not.
  WORDS = 'Rücklicht, größer; 12,50'

  def test_files_of_other_programs
    marked = ->(name, mark) { [*mark, *WORDS.encode(name).bytes] }
    files = { 'UTF-8' => WORDS.bytes, 'Windows-1252' => WORDS.encode('Windows-1252').bytes, 'UTF-16' => marked['UTF-16LE', [0xff, 0xfe]] }
    seen = Miser::Client.run('decoded_run', input: [*files.values, marked['UTF-16BE', [0xfe, 0xff]], marked['UTF-8', [0xef, 0xbb, 0xbf]]])
    assert_equal([WORDS] * 5, seen.map { |read| read['text'] })
    assert_equal([*files.keys, 'UTF-16', 'UTF-8'], seen.map { |read| read['as'] })
  end
end
