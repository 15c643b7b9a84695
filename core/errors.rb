# frozen_string_literal: true

module Miser
  # What is wrong with figures or parts, not with the program. Each kind carries its
  # facts; its words are made here, once, for whoever reads them. A mistake of the
  # program is never one of these.
  class DomainError < StandardError
    attr_reader :facts

    # @param facts [Hash{Symbol=>Object}] what the words are made of
    def initialize(**facts)
      @facts = facts
      super(words)
    end

    # @return [String] for a person, without a full stop
    def words = raise(NotImplementedError, self.class.name)

    private

    # @return [Object] @raise [KeyError] where the one who raised it left a fact out
    def [](name) = facts.fetch(name)
  end

  # A cut-in speed at or above the speed of a known output. facts: cut_in, rpm
  class LateCutIn < DomainError
    def words = "cut-in speed (#{self[:cut_in].round} rpm) must lie below the rated speed (#{self[:rpm].round} rpm)"
  end

  # A two-voltage test whose readings are not above nothing.
  class NothingDrawn < DomainError
    def words = 'volts and amps must be above 0 in both readings'
  end

  # A two-voltage test at nearly one voltage. facts: low, high, least (V)
  class VoltagesTooClose < DomainError
    def words = "the two voltages must differ by #{self[:least]} V or more, got #{self[:low]} and #{self[:high]}"
  end

  # A network without a solution. facts: parts (their ids), why (floating, contradicting, restless)
  class Unsolvable < DomainError
    WHY = { floating: '%s hangs on nothing: no way to earth', contradicting: 'these contradict each other: %s',
            restless: 'the circuit does not settle near %s' }.freeze

    def words = format(WHY.fetch(self[:why]), self[:parts].join(', '))
  end

  # A wall whose frame is not known. facts: missing
  class UnreadyWall < DomainError
    def words = self[:missing]
  end

  # Two walls that can't be set against each other. facts: why
  class WallsApart < DomainError
    def words = self[:why]
  end

  # A name that no table here has. facts: what, given, known
  class UnknownName < DomainError
    def words = "unknown #{self[:what]} #{self[:given].inspect}; known: #{self[:known].join(', ')}"
  end

  # An edit that can't be made. facts: at (place in the document), why
  class ImpossibleEdit < DomainError
    def at = self[:at]
    def words = self[:why]
  end

  # A drill that has ended.
  class DrillOver < DomainError
    def words = 'this drill has ended; another one may be begun'
  end

  # A drill that goes on for ever. facts: most
  class DrillTooLong < DomainError
    def words = "#{self[:most]} acts are enough for one fault; accepted: giving up"
  end

  # Switches of a drill's bench that can't stand so together. facts: switches
  class SwitchesApart < DomainError
    def words = "#{self[:switches].join(' and ')} can't be on together; accepted: one of them"
  end

  # A meter's leads on two parts of a machine between which nothing is known.
  class LeadsApart < DomainError
    def words = 'the two leads are on circuits that have only the battery in common; accepted: one of them on battery + or −'
  end

  # A lead that would burn.
  class LeadBurns < DomainError
    def words = 'a lead from a point to itself, or across the battery; accepted: two points with something between them'
  end

  # An act at a drill's bench with which a circuit never comes to rest.
  class NeverRests < DomainError
    def words = 'with that something cuts in and out for ever, and nothing can be told; accepted: other positions of the switches'
  end

  # A machine of which too little is known for a drill.
  class NothingToHide < DomainError
    def words = 'nothing can be hidden there that would be noticed and could be something else; accepted: a machine whose signals, feeds or charging are entered'
  end
end
