# frozen_string_literal: true

module Miser
  module Card
    # One thing that the hands do.
    # @!attribute key [String] the same however the card is made anew
    # @!attribute phase [Symbol] of PHASES, in the order of the work @!attribute kind [String] of KINDS, what its minutes count as
    # @!attribute block [String] what it belongs to, in words @!attribute where [String]
    # @!attribute text [String] what to do @!attribute detail [String, nil] more of it
    # @!attribute tool [String, nil] with its size @!attribute cautions [Array<String>]
    # @!attribute hold [String, nil] why one stops here: something must be seen before the next
    # @!attribute held_by [Symbol, nil] of Holds, what must be the case @!attribute minutes [Float, nil] nil where nobody keeps its time
    # @!attribute why [Hash] stage, subject, text: what was decided, and where
    # @!attribute needs [Array<String>] keys of steps, or names that steps give @!attribute gives [Array<String>]
    # @!attribute out [Array<Hash>] fasteners that come out @!attribute back_of [String, nil] key of the step whose fasteners go back
    # @!attribute opens [Hash, nil] stage, subject: where it is done on screen
    Step = Struct.new(:key, :phase, :kind, :block, :where, :text, :detail, :tool, :cautions, :hold, :held_by, :minutes, :why, :needs,
      :gives,
      :out, :back_of, :opens, keyword_init: true) do
        # @return [String] what it says, by which a later change is known
        def said = [text, detail, tool].compact.join(' · ')[0, Step::SAID]
      end

    # In which phase of the work it falls, and what its minutes count as.
    class Step
      # Letters of it that a tick keeps.
      SAID = 900
      PHASES = %i[ready before strip fit feed power check close finish].freeze
      KINDS = { 'ready' => 'making ready', 'measure' => 'measuring', 'check' => 'trying and checking', 'strip' => 'opening',
                'fit' => 'fitting',
                'wire' => 'wiring', 'close' => 'closing', 'aim' => 'aim and beam', 'ride' => 'ride' }.freeze

      def self.of(**given)
        new(cautions: [], needs: [], gives: [], out: [], **given)
      end
    end
  end
end
