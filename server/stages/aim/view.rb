# frozen_string_literal: true

require_relative '../../stage_views'

module Miser
  module Server
    StageViews.declare('aim') do |ticket, _look|
      aim = ticket.aim
      figures = Stages::AimStage::FIGURES.to_h { |name| [name, Present.figure(aim.public_send(name), "aim/#{name}")] }
      figures.merge(ready: aim.ready?, school: aim.school.key, target: aim.school.target, source: aim.school.source, limits: aim.limits,
        pitch_degrees: aim.pitch_degrees, verdict: aim.verdict,
        verdict_words: aim.verdict_words, turn_words: aim.turn_words, restore_words: aim.restore_words,
        thread_slips: aim.thread_slips)
    end
  end
end
