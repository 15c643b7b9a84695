# frozen_string_literal: true

module Miser
  # A fault that sits in one place of a machine, as bad as one of the steps of its kind.
  # @!attribute kind [#key, #label, #prior, #check, #cure] @!attribute step [String, nil] where the kind has several
  # @!attribute does [Object] what it changes, as the library of its kind has it
  SteppedFault = Struct.new(:kind, :step, :does) do
    # @param kind [#key] @param steps [Hash{Symbol=>Object}] what each does @return [Array<SteppedFault>]
    def self.of(kind, steps) = steps.map { |step, does| new(kind, steps.size > 1 ? step.to_s : nil, does) }

    def target = nil
    # Where it is, however bad.
    def place_id = kind.key
    def id = [kind.key, step].compact.join('~')
    def label = kind.label
    def words = [kind.label, step].compact.join(', ')
    def prior = kind.prior
    def check = kind.check
    def cure = kind.cure
    def moves? = false
  end
end
