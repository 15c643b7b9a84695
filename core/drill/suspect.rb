# frozen_string_literal: true

module Miser
  module Drill
    # A fault of one of the libraries where it can sit on this machine.
    # @!attribute area [String] key of the area it belongs to
    # @!attribute fault [Signals::Fault::Instance, Wiring::Fault::Instance, SteppedFault]
    # @!attribute cost [Costs::Cost] of mending it @!attribute at [String, nil] what must be open for that
    # @!attribute place [String] where it is, however bad: what is mended
    Suspect = Struct.new(:area, :fault, :cost, :at, :place, keyword_init: true) do
      def id = "#{area}/#{fault.id}"
      # Where it is, however bad: what a person names.
      def place_id = "#{area}/#{place}"
      def label = fault.label
      def words = fault.words
      def cure = fault.cure
      def prior = fault.prior
    end

    # What a customer may notice. @!attribute key [String] @!attribute subject [String, nil] of what; nil: nobody says
    Sign = Struct.new(:key, :subject) do
      # @param said [Sign] as a customer tells it @return [Boolean] whether this is meant
      def told_by?(said) = key == said.key && (said.subject.nil? || said.subject == subject)
      def to_s = [key, subject].compact.join(':')
    end

    # What is open, on and clipped on at the bench.
    # @!attribute on [Array<String>] switches @!attribute engine [String] off, idle or cruise
    # @!attribute empty [Array<String>] holders that were emptied @!attribute jumper [Array(String, String), nil] points
    # @!attribute bare [Array<String>] what was opened
    State = Struct.new(:on, :engine, :empty, :jumper, :bare, keyword_init: true) do
      def initialize(on: [], engine: 'off', empty: [], jumper: nil, bare: []) = super(on: on.sort, engine: engine, empty: empty.sort, jumper: jumper, bare: bare.sort)
      def with(**changes) = self.class.new(**to_h, **changes)
      def on?(switch) = on.include?(switch)
      def running? = engine != 'off'
    end
    ENGINES = { 'off' => 'engine off', 'idle' => 'idling', 'cruise' => 'at cruising speed' }.freeze

    # Where a meter's lead can be put. @!attribute at [String, nil] what must be open for it
    Point = Struct.new(:id, :name, :at, keyword_init: true)
    # What can be seen lit. @!attribute place [String] where on the machine @!attribute plug [Boolean] whether it can be unplugged
    # @!attribute spoken [String, nil] what its rider calls it, where that is not its name
    # @!attribute lamp [Boolean] whether it shines, or only works
    Light = Struct.new(:id, :name, :place, :plug, :spoken, :lamp, keyword_init: true) do
      def initialize(lamp: true, **rest) = super
    end
  end
end
