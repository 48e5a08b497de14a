# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Where a link was found, and what is said of it there.
      class Whereabouts
        # @param seen [Address] as it was found
        # @param convention [Convention]
        # @param kind [String, nil]
        # @param sightings [Array<Inventory::Sighting>]
        def initialize(seen, convention, kind, sightings)
          @seen = seen
          @convention = convention
          @kind = kind
          @sightings = sightings
        end

        # @return [Array<Inventory::Sighting>] those on pages of the advertiser's own
        def internal
          @internal ||=
            if @sightings.empty?
              @sightings
            else
              @sightings.select { |one| one.page && @convention.own_hosts.cover?(one.page.host) }
            end
        end

        # @return [Boolean] whether the link stands nowhere but between own pages, where campaign parameters
        #   do harm
        def only_internal? = @sightings.any? && internal.size == @sightings.size

        # @return [Array<Address>, nil] the pages on which it stands; nil where it stands elsewhere too
        def pages
          @sightings.filter_map(&:page) if @kind == "page" && @sightings.all? { |one| one.kind == "page" }
        end

        # @return [Array<String>] required roles that the place where it stands is known to have lost since it
        #   was last read
        def lost
          @lost ||=
            if @sightings.empty?
              Param::NOTHING
            else
              @sightings.flat_map { |one| (one.facts && one.facts["lost"]).to_s.split(",") }.uniq
            end
        end

        # @return [Inventory::Sighting, nil] the place that is known to have lost something
        def robbed = @sightings.find { |one| one.facts && one.facts["lost"] }

        # @return [String, nil] whose ad it is: as its sightings say, else the network of which its source is
        #   the name
        def network
          return @network if defined?(@network)

          @network = said_of("network") ||
            (@convention.dialect(@convention.value_in(@seen, "source"))&.network if @kind == "ad")
        end

        # @param name [String]
        # @return [String, nil] what the sightings say, where they agree
        def said_of(name)
          return if @sightings.empty?

          said = @sightings.filter_map { |one| one.facts && one.facts[name] }.uniq
          said.first if said.size == 1
        end
      end
    end
  end
end
