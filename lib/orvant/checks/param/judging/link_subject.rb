# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # What the family judges: an address, read through a convention. Its build is judged first; everything
      # else looks at the address as it would be if it were built well. What there is to know of it stands in
      # its parts: where it was found, what it carries, what it must carry, and what stands beside that.
      class LinkSubject
        # The roles by which visits find their channels.
        LEADING = %w[source medium].freeze
        # Its parts, by the name under which it has them.
        PARTS = {whereabouts: Whereabouts, carried: Carried, demands: Demands, strays: Strays}.freeze

        # @param name [Symbol] of a method
        # @return [Symbol, nil] the part that has it, nil where the link itself does or nobody
        def self.part_with(name)
          PARTS.find { |_, part| part.public_method_defined?(name, false) }&.first
        end

        attr_reader :seen, :convention, :kind, :sightings, :structure, :whereabouts

        # @param seen [Address] as it was found
        # @param convention [Convention]
        # @param kind [String, nil]
        # @param sightings [Array<Inventory::Sighting>] where the link was found
        def initialize(seen, convention, kind: nil, sightings: [])
          @seen = seen
          @convention = convention
          @kind = kind
          @sightings = sightings
          @whereabouts = Whereabouts.new(seen, convention, kind, sightings)
          @structure = Structure.new(seen, rules.names)
        end

        # @return [Carried]
        def carried = @carried ||= Carried.new(self)

        # @return [Demands]
        def demands = @demands ||= Demands.new(self)

        # @return [Strays]
        def strays = @strays ||= Strays.new(self)

        # @return [Address] built well
        def address = structure.address

        # @return [Convention::Rulebook] the rules as they stand for this link
        def rules = @rules ||= convention.rules_for(**scope)

        # @return [Hash{Symbol => String, nil}] what it is, as rules for a scope ask for it
        def scope
          {
            kind: kind,
            account: whereabouts.said_of("account"),
            network: whereabouts.network,
            shows: whereabouts.said_of("shows"),
            host: seen.host
          }
        end

        # @param other [Address]
        # @return [LinkSubject] the same link at another address
        def with(other) = self.class.new(other, convention, kind: kind, sightings: sightings)

        # @return [Structure, nil] how it is built, where that is not right
        def misbuilt = (structure unless structure.sound?)

        # @return [Array<Integer>] a mark for each of its values, in order
        def faults = carried.placed.map { |one| one.reading.mark }

        # @return [String] as it was found, for the sentences of a finding
        def evidence = seen.raw

        # @return [String] its host as it is written
        def host = seen.host

        # @return [String] its path as it was found
        def path = seen.path
      end
    end
  end
end
