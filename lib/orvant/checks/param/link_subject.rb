# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # What the family judges: an address, read through a convention. Its build is judged first; everything else looks at the address
      # as it would be if it were built well.
      class LinkSubject
        # A reading and the number of its pair on the address.
        Placed = Struct.new(:reading, :number)

        attr_reader :seen, :convention, :kind, :sightings, :structure

        # @param seen [Address] as it was found
        # @param convention [Convention]
        # @param kind [String, nil]
        # @param sightings [Array<Inventory::Sighting>] where the link was found
        def initialize(seen, convention, kind: nil, sightings: [])
          @seen = seen
          @convention = convention
          @kind = kind
          @sightings = sightings
          @structure = Structure.new(seen, rules.names)
        end

        # @return [Address] built well
        def address = structure.address

        # @return [Convention::Rulebook] the rules as they stand for this link
        def rules = @rules ||= convention.rules_for(kind: kind, account: fact("account"), host: seen.host)

        # @return [Array<Inventory::Sighting>] those on pages of the advertiser's own
        def internal
          @internal ||= sightings.select { |one| one.page && convention.own_hosts.cover?(one.page.host) }
        end

        # @return [Boolean] whether the link stands nowhere but between own pages, where campaign parameters do harm
        def only_internal? = sightings.any? && internal.size == sightings.size

        # @return [Array<Convention::Identifier>] what a link of this kind and source must carry
        def identifiers
          convention.identifiers.select do |one|
            (one.kinds.empty? || one.kinds.include?(kind)) && (one.source.nil? || mended["source"] == one.source)
          end
        end

        # @param other [Address]
        # @return [LinkSubject] the same link at another address
        def with(other) = self.class.new(other, convention, kind: kind, sightings: sightings)

        # @return [Array<Reading>] every carrier on the address, and every name that was meant to be one, in order
        def readings = @readings ||= placed.map(&:reading)

        # @return [Array<Placed>] those with something wrong in their values
        def unsound = @unsound ||= placed.reject { |one| one.reading.sound? }

        # @return [Array<Placed>] those whose names are slips
        def misnamed = placed.select { |one| one.reading.misnamed? }

        # @return [Array<Address::Pair>] parameters that carry no role
        def foreign_pairs
          carried = placed.to_h { |one| [one.number, true] }
          address.pairs.each_with_index.filter_map { |pair, number| pair unless carried[number] }
        end

        # @param reading [Reading]
        # @return [Address::Pair] as it stands on this address
        def pair_of(reading) = address.pairs[placed.find { |one| one.reading.equal?(reading) }.number]

        # @param role [String]
        # @return [Array<Reading>]
        def readings_of(role) = by_role.fetch(role, [])

        # @return [Array<Convention::Role>] the required roles without a carrier
        def missing_roles
          return [] if rules.roles.all? { |role| by_role.key?(role.name) }

          channel = channel(mended).channel
          rules.roles.select { |role| !by_role.key?(role.name) && role.required?(kind: kind, channel: channel, paid: paid?) }
        end

        # @return [Boolean] a link of the kind `ad`, or one whose values lead to a paid channel
        def paid? = kind == "ad" || convention.channel_rules.paid?(channel(mended).channel)

        # @param visit [Hash{String => String}]
        # @return [Convention::ChannelRules::Answer]
        def channel(visit) = convention.channel_rules.classify(visit)

        # @return [Hash{String => String}] the values that a report would record, as they stand
        def as_written = @as_written ||= by_role.transform_values { |readings| readings.first.value }

        # @return [Hash{String => String}] the values as they would be if each were mended
        def mended = @mended ||= by_role.transform_values { |readings| readings.first.corrected }

        # @param role [String] `source` or `medium`
        # @return [String, nil] the one value on which all permitted pairs agree that fit what the link says and its kind
        def only_value(role)
          values = convention.pairs.select { |pair| fits?(pair) }.map { |pair| {"source" => pair.source, "medium" => pair.medium}[role] }.uniq
          values.first if values.size == 1
        end

        # @return [String, nil] what the sightings say, where they agree
        def fact(name)
          said = sightings.filter_map { |one| one.facts && one.facts[name] }.uniq
          said.first if said.size == 1
        end

        private

        def by_role = @by_role ||= readings.group_by { |reading| reading.role.name }

        def placed
          @placed ||= begin
            found = address.pairs.each_with_index.filter_map { |pair, number| (reading = reading(pair)) && Placed.new(reading, number) }
            found.concat(bare_names(found)).sort_by(&:number)
          end
        end

        def reading(pair)
          rules.remember(network ? "#{network} #{pair.raw}" : pair.raw) do
            role = rules.carriers[pair.name] || rules.carriers[rules.names.meant(pair.name)]
            role && Reading.new(pair, role, convention, kind: kind, network: network, roles: rules.roles)
          end
        end

        def network = @network ||= fact("network")

        # A role's bare name is meant as its carrier only where the role has none and the value is one of its own.
        def bare_names(found)
          carried = found.map { |one| one.reading.role.name }
          open = rules.roles.reject { |role| carried.include?(role.name) }
          return [] if open.empty?

          address.pairs.each_with_index.filter_map do |pair, number|
            role = open.find { |one| one.name == pair.name && !rules.names.include?(pair.name) && one.vocabulary.known(pair.value) }
            role && Placed.new(Reading.new(pair, role, convention, kind: kind, network: network, roles: rules.roles), number)
          end
        end

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
