# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # What the family judges: an address, read through a convention. Its build is judged first; everything
      # else looks at the address as it would be if it were built well.
      class LinkSubject
        # The roles by which visits find their channels.
        LEADING = %w[source medium].freeze
        NOTHING = {}.freeze
        PLACEHOLDER_HINT = /[{}\[\]<>%$*|~^@!(]|\#\#/

        # A reading and the number of its pair on the address.
        Placed = Struct.new(:reading, :number)

        # A parameter that carries no role. near: the carriers or required identifiers that its name may have
        # been meant to be; of a carrier that the link has besides, it says nothing more · bare: the role
        # whose bare name it has, with a value of that role · personal: PersonalData::Hit or nil · token:
        # Tokens::Found that stands there and is never filled, or nil.
        Foreign = Struct.new(:near, :bare, :personal, :token, keyword_init: true) do
          def meant = (near.first if near.size == 1)

          def telling? = near.any? || bare || personal || token
        end

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
        def rules
          @rules ||= convention.rules_for(
            kind: kind,
            account: fact("account"),
            network: network,
            shows: fact("shows"),
            host: seen.host
          )
        end

        # @return [Array<Inventory::Sighting>] those on pages of the advertiser's own
        def internal
          @internal ||=
            if sightings.empty?
              sightings
            else
              sightings.select { |one| one.page && convention.own_hosts.cover?(one.page.host) }
            end
        end

        # @return [Boolean] whether the link is to carry what is required: of pages, only partners' are asked
        #   for it, and of one that nobody knows nothing is said unless it carries something
        def asked?
          return true unless kind == "page" && sightings.all? { |one| one.kind == "page" }

          pages = sightings.filter_map(&:page)
          if pages.empty?
            placed.any? || foreign.any? { |_, one| one.near.any? }
          else
            pages.any? { |page| convention.partner?(page.host) }
          end
        end

        # @return [Boolean] whether the link stands nowhere but between own pages, where campaign parameters
        #   do harm
        def only_internal? = sightings.any? && internal.size == sightings.size

        # @return [Array<Convention::Identifier>] what a link of this kind and source must carry
        def identifiers
          convention.identifiers.select { |one| one.asked_of?(kind, mended["source"], network) { paid? } }
        end

        # @param pair [Address::Pair]
        # @return [Convention::Identifier, nil] the one that it carries on an ad with another token than the
        #   one that is demanded
        def demanded_otherwise(pair)
          return unless kind == "ad"

          identifiers.find do |one|
            one.token && one.parameter == pair.name && other_token?(pair.value, one.token)
          end
        end

        # @param other [Address]
        # @return [LinkSubject] the same link at another address
        def with(other) = self.class.new(other, convention, kind: kind, sightings: sightings)

        # @return [Array<Reading>] every carrier on the address, and every name that was meant to be one, in
        #   order
        def readings = @readings ||= placed.map(&:reading)

        # @return [Boolean] whether nothing is wrong with any part by itself: what may be wrong is only how
        #   they go together
        def settled?
          return @settled if defined?(@settled)

          @settled = structure.sound? &&
            placed.all? { |one| one.reading.settled? } &&
            foreign.empty? &&
            internal.empty? &&
            personal_parts.empty? &&
            part_tokens.empty?
        end

        # @return [Hash{String => PersonalData::Hit}] what is personal beside the parameters: in the user
        #   part, the path or the fragment
        def personal_parts
          unless seen.path.match?(Orvant::PersonalData::HINT) ||
              seen.authority.include?("@") ||
              address.fragment
            return NOTHING
          end

          @personal_parts ||= {
            "user part" => seen.authority[/\A(.*)@/m, 1],
            "path" => seen.path,
            "fragment" => address.fragment
          }.each_with_object({}) do |(part, text), found|
            next unless text&.match?(Orvant::PersonalData::HINT)

            hit = text.split(%r{[/?&=]}).filter_map { |stretch| convention.personal_data.find(stretch) }.first
            found[part] = hit if hit
          end
        end

        # @return [Hash{String => Tokens::Found}] what looks like a placeholder in the path, the fragment, or
        #   the name of a parameter
        def part_tokens
          return NOTHING unless seen.raw.match?(PLACEHOLDER_HINT)

          @part_tokens ||= {
            "path" => seen.path,
            "fragment" => address.fragment,
            **address.pairs.to_h { |pair| ["name #{pair.name}", pair.raw.partition("=").first] }
          }
            .each_with_object({}) { |(part, text), found|
              (token = text && loose_token(Address::Pair.new("=#{text}"))) && found[part] = token
            }
        end

        # @return [String] as it was found, for the sentences of a finding
        def evidence = seen.raw

        # @return [String] its host as it is written
        def host = seen.host

        # @return [String] its path as it was found
        def path = seen.path

        # @return [String, nil] what stands behind its #
        def fragment = seen.fragment

        # @return [String] the page to which it leads
        def page = seen.page

        # @param number [Integer]
        # @return [Address::Pair] of the address as it should be built
        def pair_at(number) = address.pairs[number]

        # @param role [Convention::Role]
        # @return [Array<Integer>] of the pairs that carry it or were meant to
        def numbers_of(role)
          carriers = role.carriers
          address.pairs.each_index.select do |number|
            (name = address.pairs[number].name) &&
              (carriers.include?(name) || carriers.include?(rules.names.meant(name)))
          end
        end

        # @param reading [Reading]
        # @return [Integer] of the first pair that says the same
        def number_of(reading) = address.pairs.index { |pair| pair.raw == reading.pair.raw }

        # @param identifier [Convention::Identifier]
        # @return [Array<Address::Pair>] those that carry it or were meant to
        def pairs_for(identifier)
          address.pairs.select do |pair|
            pair.name == identifier.parameter || rules.names.meant(pair.name) == identifier.parameter
          end
        end

        # @param name [String] of a carrier or an identifier
        # @return [Array<Address::Pair>]
        def occurrences(name) = address.occurrences(name)

        # @return [Array<String>] names of carriers, of required identifiers, and those that were meant as one
        #   of them
        def campaign_names
          known = address.pairs.map(&:name).select { |name| rules.names.include?(name) }
          meant = foreign.select { |_, one| one.near.any? }.keys.map { |number| address.pairs[number].name }
          (readings.map { |reading| reading.pair.name } + known + meant).uniq
        end

        # @param names [Array<String>]
        # @return [Address] the link without these parameters
        def without(names)
          address.with(edits: address.pairs.select { |pair| names.include?(pair.name) }
            .to_h { |pair| [pair, nil] })
        end

        # @param role [Convention::Role]
        # @return [String, nil] its carrier with a value, where that stands in the path, which no reader of
        #   queries looks at
        def path_carrier(role) = seen.path[/;(?:#{Regexp.union(role.carriers)})=[^;\/]*/]

        # @return [Inventory::Sighting, nil] the place that is known to have lost something
        def robbed = sightings.find { |one| one.facts && one.facts["lost"] }

        # @return [Array<Placed>] those with something wrong in their values
        def unsound = @unsound ||= placed.reject { |one| one.reading.sound? }

        # @return [Hash{Integer => Foreign}] those of which there is something to say, by number of the pair
        def foreign
          placed
          @foreign
        end

        # @return [Hash{Integer => Array<String>}] by number of the pair, what its name may have been meant to
        #   be
        def misnamed
          found = placed.select { |one| one.reading.misnamed? }
            .to_h { |one|
              [one.number, [rules.names.meant(one.reading.pair.name) || one.reading.role.carrier]]
            }
          foreign.each { |number, one| found[number] = one.near if one.near.any? }
          found
        end

        # @return [Array<String>] required roles that the place where it stands is known to have lost since it
        #   was last read
        def lost
          @lost ||=
            if sightings.empty?
              Param::NOTHING
            else
              sightings.flat_map { |one| (one.facts && one.facts["lost"]).to_s.split(",") }.uniq
            end
        end

        # @param number [Integer] of a pair on the address as it should be built
        # @return [Integer, nil] its number on the address as it was seen, nil where it is no parameter of its
        #   own there
        def number_seen(number)
          structure.sound? ? number : seen.pairs.index { |pair| pair.raw == address.pairs[number].raw }
        end

        # @param reading [Reading]
        # @return [Address::Pair] as it stands on this address
        def pair_of(reading) = address.pairs[placed.find { |one| one.reading.equal?(reading) }.number]

        # @param role [String]
        # @return [Array<Reading>]
        def readings_of(role) = by_role.fetch(role, [])

        # @return [Array<Convention::Role>] the required roles without a carrier
        def missing_roles
          lacking = rules.demanding.reject { |role| by_role.key?(role.name) }
          return [] if lacking.empty? || !asked?

          channel = channel(mended).channel
          lacking.select do |role|
            role.required?(kind: kind, channel: channel, paid: paid?, network: network)
          end
        end

        # @param role [Convention::Role]
        # @return [Boolean] whether this link must carry it
        def required?(role)
          asked? &&
            role.required?(kind: kind, channel: channel(mended).channel, paid: paid?, network: network)
        end

        # @return [String, nil] whose ad it is: as its sightings say, else the network of which its source is
        #   the name
        def network
          return @network if defined?(@network)

          @network = fact("network") ||
            (convention.dialect(convention.value_in(seen, "source"))&.network if kind == "ad")
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
        # @return [String, nil] the one value on which all permitted pairs agree that fit what the link says
        #   and its kind
        def only_value(role)
          values = convention.pairs.select { |pair| fits?(pair) }
            .map { |pair| {"source" => pair.source, "medium" => pair.medium}[role] }.uniq
          values.first if values.size == 1
        end

        # @return [String, nil] what the sightings say, where they agree
        def fact(name)
          return if sightings.empty?

          said = sightings.filter_map { |one| one.facts && one.facts[name] }.uniq
          said.first if said.size == 1
        end

        # @return [Array<Address::Pair>, nil] the pairs that carry roles, nil where more than their values
        #   counts
        def carried_alone
          if structure.sound? &&
              foreign.empty? &&
              internal.empty? &&
              placed.none? { |one| one.reading.misnamed? }
            placed.map { |one| address.pairs[one.number] }
          end
        end

        # @return [Array<String>] the required identifiers that have a value, and those that have another
        #   token than the one that is demanded
        def identified
          carried = address.pairs.select do |pair|
            convention.identifier?(pair.name) && !pair.value.strip.empty?
          end
          return carried if carried.empty?

          carried.map { |pair| demanded_otherwise(pair) ? "#{pair.name} otherwise" : pair.name }.uniq.sort
        end

        # @return [Array<Placed>] what carries a role, in the order of the address
        def placed
          return @placed if @placed

          @foreign = {}
          @placed = []
          carriers = rules.carriers
          others = address.pairs.each_index.reject do |number|
            pair = address.pairs[number]
            role = carriers[pair.name] and @placed << Placed.new(reading(pair, role), number)
          end
          in_order = @placed.size
          others.each { |number| place_meant(address.pairs[number], number) }
          take_bare_names if @foreign.any? { |_, one| one.bare }
          (@placed.size > in_order) ? @placed.sort_by!(&:number) : @placed
        end

        private

        # A literal value counts as carried.
        def other_token?(value, demanded)
          return false if value == demanded

          return false if same_token?(value, demanded)

          convention.dialects.any? { |one| one.token_in(value) } || !Convention::Placeholder.in(value).nil?
        end

        # Some networks take the names of their tokens in any letter case.
        def same_token?(value, demanded)
          dialect = convention.dialect(network) or return false
          one, other = [value, demanded].map { |text| dialect.token(dialect.inner(text)) }
          !one.nil? && one == other
        end

        def loose_token(pair)
          return unless pair.raw_value.match?(PLACEHOLDER_HINT)

          tokens = Tokens.new(
            pair,
            Address::Pair.decode(Address::Pair.decode(pair.raw_value)),
            convention,
            network: network,
            ad: kind == "ad"
          )
          tokens.unfilled || tokens.unknown
        end

        def by_role = @by_role ||= readings.group_by { |reading| reading.role.name }

        # Of a role that the link carries, another name that was meant for it says nothing more.
        def place_meant(pair, number)
          near = rules.names.near(pair.name)
          role = rules.carriers[near.first] if near.size == 1
          if role && @placed.none? { |one| one.reading.role.name == role.name }
            return @placed << Placed.new(reading(pair, role), number)
          end

          found = Foreign.new(
            near: near,
            bare: bare_role(pair),
            personal: convention.personal_data.find(pair.raw_value, field: pair.name),
            token: loose_token(pair)
          )
          @foreign[number] = found if found.telling?
        end

        def reading(pair, role)
          Reading.of(pair, role, convention, kind: kind, network: network, rules: rules)
        end

        def read(pair, role) = Reading.new(pair, role, convention, kind: kind, network: network, rules: rules)

        def bare_role(pair)
          role = rules.role(pair.name)
          if role &&
              !rules.names.include?(pair.name) &&
              !convention.own_parameters.key?(pair.name) &&
              role.vocabulary.known(pair.value)
            role
          end
        end

        # A role's bare name is meant as its carrier only where the role has none.
        def take_bare_names
          carried = @placed.map { |one| one.reading.role.name }
          @foreign.select { |_, one| one.bare && !carried.include?(one.bare.name) }.each do |number, one|
            @foreign.delete(number)
            @placed << Placed.new(read(address.pairs[number], one.bare), number)
          end
        end

        def fits?(pair)
          return false unless pair.kinds.empty? || pair.kinds.include?(kind)
          return false if kind == "ad" && !convention.channel_rules.paid?(channel("source" => pair.source,
            "medium" => pair.medium).channel)

          {"source" => pair.source, "medium" => pair.medium}.all? do |role, value|
            # An empty value says nothing against any.
            readings_of(role).all? { |reading| reading.blank? || reading.corrected == value }
          end
        end
      end
    end
  end
end
