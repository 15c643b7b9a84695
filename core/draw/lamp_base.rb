# frozen_string_literal: true

require_relative '../errors'

module Miser
  module Draw
    # Lamp bases with the rated watts and light of their filaments.
    # Source: UN Regulation 37, values from memory; trade numbers: common practice.
    class LampBase
      # One filament of a base.
      # @!attribute watts [Float] rated, at 12 V
      # @!attribute test_max_w [Float, nil] most it may take at test_v
      Filament = Struct.new(:name, :watts, :lumens, :test_v, :test_max_w, keyword_init: true)

      attr_reader :key, :trade, :contacts, :filaments, :use

      def initialize(key, use, trade, contacts, filaments)
        @key = key
        @use = use
        @trade = trade
        @contacts = contacts
        @filaments = filaments
      end

      def self.filament(name, watts, lumens, test_v, test_max_w = nil)
        Filament.new(name: name, watts: watts, lumens: lumens, test_v: test_v, test_max_w: test_max_w)
      end
      private_class_method :filament

      TABLE = [
        new('H4', 'headlamp', '9003', 3, [filament('low', 55.0, 1000, 13.2, 68.0), filament('high', 60.0, 1650, 13.2, 75.0)]),
        new('HS1', 'headlamp', nil, 3, [filament('low', 35.0, 525, 13.2), filament('high', 35.0, 825, 13.2)]),
        new('H7', 'headlamp', nil, 2, [filament('single', 55.0, 1500, 13.2)]),
        new('H11', 'headlamp', nil, 2, [filament('single', 55.0, 1350, 13.2)]),
        new('HB3', 'headlamp', '9005', 2, [filament('single', 60.0, 1860, 13.2, 73.0)]),
        new('HB4', 'headlamp', '9006', 2, [filament('single', 51.0, 1095, 13.2, 62.0)]),
        new('H1', 'headlamp', nil, 1, [filament('single', 55.0, 1550, 13.2, 68.0)]),
        new('H3', 'auxiliary lamp', nil, 1, [filament('single', 55.0, 1450, 13.2, 68.0)]),
        new('H27W/1', 'auxiliary lamp', '880', 2, [filament('single', 27.0, 477, 13.5)]),
        new('S2', 'headlamp', nil, 3, [filament('low', 35.0, nil, 13.5), filament('high', 35.0, nil, 13.5)]),
        new('P21W', 'signal, brake', '1156', 1, [filament('single', 21.0, 460, 13.5, 26.5)]),
        new('PY21W', 'signal, amber', nil, 1, [filament('single', 21.0, 280, 13.5, 26.5)]),
        new('P21/5W', 'brake and tail', '1157', 2, [filament('bright', 21.0, 440, 13.5, 26.5), filament('dim', 5.0, 35, 13.5, 6.6)]),
        new('W21W', 'signal, brake', '7440', 2, [filament('single', 21.0, nil, 13.5)]),
        new('W21/5W', 'brake and tail', '7443', 4, [filament('bright', 21.0, nil, 13.5), filament('dim', 5.0, nil, 13.5)]),
        new('R10W', 'signal', nil, 1, [filament('single', 10.0, 125, 13.5)]),
        new('R5W', 'tail, position', nil, 1, [filament('single', 5.0, 50, 13.5)]),
        new('W5W', 'position, plate', '194', 2, [filament('single', 5.0, 50, 13.5)]),
        new('T4W', 'dash, position', nil, 1, [filament('single', 4.0, 35, 13.5)]),
        new('T2W', 'dash', nil, 1, [filament('single', 2.0, nil, 13.5)]),
        new('other', 'any: enter its watts', nil, nil, [filament('single', nil, nil, 13.2)])
      ].freeze
      BY_KEY = TABLE.to_h { |b| [b.key, b] }.freeze

      # @return [LampBase]
      # @raise [UnknownName] naming the bases there are
      def self.named(key)
        BY_KEY.fetch(key) { raise UnknownName.new(what: 'bulb base', given: key, known: BY_KEY.keys) }
      end

      # @param name [String, nil] filament's name; the only one where there is one
      # @return [Filament]
      def filament(name)
        filaments.find { |f| f.name == name } || filaments.first
      end
    end
  end
end
