# frozen_string_literal: true

module Miser
  module Book
    # One thing that a job taught: of a part, of a model, or of a kind of work.
    # @!attribute id [String] the same however often it is taken of the job
    # @!attribute subject [String] part, model, work, machine @!attribute key [String, nil] Key of the part or model, kind of work
    # @!attribute label [String] as it is written there @!attribute shelf_id [String, nil]
    # @!attribute what [String] of WHATS @!attribute item [String] which draw, which point; empty where there is only one
    # @!attribute value [Float, nil] A, min, V; of one copy @!attribute sigma [Float, nil] @!attribute claimed [Float, nil] in the same unit
    # @!attribute n [Integer] of how many it tells @!attribute on [String] the day, year-month-day
    # @!attribute more [Hash] what belongs to it: rpm, volts, names
    # @!attribute job, machine, name [String, nil] whose it is, where it comes out of the book
    Lesson = Struct.new(:id, :subject, :key, :label, :shelf_id, :what, :item, :value, :sigma, :claimed, :n, :on, :more, :job,
      :machine, :name, keyword_init: true)

    # What is learnt, and in which unit.
    class Lesson
      WHATS = { 'draw' => 'A', 'point' => 'A', 'earns' => 'A', 'held' => 'V', 'minutes' => 'min', 'idle_volts' => 'V', 'key_off' => 'A',
                'fitted' => '1', 'ok' => '1',
                'loose' => '1',
                'dim' => '1', 'dead' => '1', 'returned' => '1' }.freeze
      # At which of a machine's own speeds it earned.
      SPEEDS = { 'idle' => 'at idle', 'cruise' => 'at cruising speed' }.freeze
      # What others may learn of; what is a machine's own is of none of these.
      SUBJECTS = %w[part model work].freeze
      # What is found at a recheck.
      SEEN = { 'ok' => 'as it should be', 'loose' => 'loose', 'dim' => 'dim', 'dead' => 'dead' }.freeze
    end
  end
end
