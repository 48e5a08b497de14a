# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # What the family judges: an address, read through a convention.
      class LinkSubject
        attr_reader :address, :convention, :kind, :sightings

        # @param sightings [Array<Inventory::Sighting>] where the link was found
        def initialize(address, convention, kind: nil, sightings: [])
          @address = address
          @convention = convention
          @kind = kind
          @sightings = sightings
        end

        # @return [Array<Inventory::Sighting>] those on pages of the advertiser's own
        def internal
          @internal ||= sightings.select { |one| one.page && convention.own_hosts.cover?(one.page.host) }
        end

        # @return [Boolean] whether the link stands nowhere but between own pages, where campaign parameters do harm
        def only_internal? = internal.any? && internal.size == sightings.size

        # @return [Array<Convention::Identifier>] what a link of this kind and source must carry
        def identifiers
          convention.identifiers.select do |one|
            (one.kinds.empty? || one.kinds.include?(kind)) && (one.source.nil? || as_written["source"] == one.source)
          end
        end

        # @param other [Address]
        # @return [LinkSubject] the same link at another address
        def with(other) = self.class.new(other, convention, kind: kind, sightings: sightings)

        # @return [Array<Reading>] every carrier on the address, in order
        def readings
          @readings ||= address.pairs.filter_map do |pair|
            role = convention.carriers[pair.name]
            Reading.new(pair, role, convention, kind: kind) if role
          end
        end

        # @param role [String]
        # @return [Array<Reading>]
        def readings_of(role) = readings.select { |reading| reading.role.name == role }

        # @return [Array<Convention::Role>] the required roles without a carrier
        def missing_roles
          convention.roles.select { |role| role.required?(paid: paid?) && readings_of(role.name).empty? }
        end

        # @return [Boolean] a link of the kind `ad`, or one whose values lead to a paid channel
        def paid?
          kind == "ad" || convention.channel_rules.paid?(channel(as_written).channel)
        end

        # @param visit [Hash{String => String}]
        # @return [Convention::ChannelRules::Answer]
        def channel(visit) = convention.channel_rules.classify(visit)

        # @return [Hash{String => String}] the values that a report would record, as they stand
        def as_written
          @as_written ||= readings.reverse.to_h { |reading| [reading.role.name, reading.value] }
        end

        # @param role [String] `source` or `medium`
        # @return [String, nil] the one value on which all permitted pairs agree that fit what the link says and its kind
        def only_value(role)
          values = convention.pairs.select { |pair| fits?(pair) }.map { |pair| {"source" => pair.source, "medium" => pair.medium}[role] }.uniq
          values.first if values.size == 1
        end

        private

        def fits?(pair)
          return false unless pair.kinds.empty? || pair.kinds.include?(kind)
          return false if kind == "ad" && !convention.channel_rules.paid?(channel("source" => pair.source,
            "medium" => pair.medium).channel)

          {"source" => pair.source, "medium" => pair.medium}.all? do |role, value|
            readings_of(role).all? { |reading| reading.corrected == value }
          end
        end
      end
    end
  end
end
