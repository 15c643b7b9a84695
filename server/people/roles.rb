# frozen_string_literal: true

module Miser
  module Server
    # What each role may do, and which role a request wants.
    module Roles
      TABLE = {
        'looker_on' => { label: 'Looker-on', means: 'sees everything, changes nothing' },
        'technician' => { label: 'Technician', means: 'works on machines, the shelf, readings' },
        'owner' => { label: 'Owner', means: 'also people, tablets, settings, instruments, copies' }
      }.freeze
      # Whom a request is for that somebody may not make.
      FOR = { 'technician' => 'technicians', 'owner' => 'the owner' }.freeze
      RANK = TABLE.keys.each_with_index.to_h.freeze
      # Asked before anybody is known.
      OPEN = [%w[GET /api/health], %w[GET /api/me], %w[POST /api/people/join], %w[GET /api/certificate]].freeze
      # One's own things, whoever one is.
      OWN = %r{\A/api/(me/|here\z|drills(/|\z))}
      OWNERS = [[nil, %r{\A/api/people(/|\z)}], [nil, %r{\A/api/tablets(/|\z)}], [%w[PATCH], %r{\A/api/shop\z}],
        [nil, %r{\A/api/copies(/|\z)}], [%w[PUT DELETE], %r{\A/api/access/}],
        [nil, %r{\A/api/calendar\z}], [%w[POST], %r{\A/api/learnt/}], [%w[DELETE], %r{\A/api/removed(/|\z)}]].freeze

      module_function

      # @param verb [String] @param path [String]
      # @return [String, nil] the least role that may; nil where anybody may
      def wanted(verb, path)
        verb = 'GET' if verb == 'HEAD'
        return nil if !path.start_with?('/api/') || OPEN.include?([verb, path])
        return 'looker_on' if OWN.match?(path)
        return 'owner' if OWNERS.any? { |verbs, place| (!verbs || verbs.include?(verb)) && place.match?(path) }

        verb == 'GET' ? 'looker_on' : 'technician'
      end

      # @param role [String] somebody's @param wanted [String]
      # @return [Boolean]
      def enough?(role, wanted) = RANK.fetch(role) >= RANK.fetch(wanted)
    end
  end
end
