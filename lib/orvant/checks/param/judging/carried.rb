# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # What the parameters of a link carry: which of them carries which role, and which carry none.
      class Carried
        # A reading and the number of its pair on the address.
        Placed = Struct.new(:reading, :number)

        # A parameter that carries no role. near: the carriers or required identifiers that its name may have
        # been meant to be; of a carrier that the link has besides, it says nothing more · bare: the role
        # whose bare name it has, with a value of that role · personal: PersonalData::Hit or nil · token:
        # Tokens::Found that stands there and is never filled, or nil.
        Foreign = Struct.new(:near, :bare, :personal, :token, keyword_init: true) do
          def meant = (near.first if near.size == 1)
        end

        NONE = [].freeze
        NOTHING = {}.freeze

        # @param link [LinkSubject]
        def initialize(link)
          @link = link
          @convention = link.convention
          @rules = link.rules
          @address = link.address
          assign_roles
        end

        # @return [Array<Placed>] what carries a role, in the order of the address
        attr_reader :placed

        # @return [Hash{Integer => Foreign}] those of which there is something to say, by number of the pair
        attr_reader :foreign

        # @return [Array<Array(Integer, String)>] number and text of each pair that carries a role, or whose
        #   name is that of a carrier or an identifier
        def known_pairs
          placed.map { |one| [one.number, one.reading.pair.raw] } +
            numbered { |pair, _| @rules.names.include?(pair.name) && !@rules.carriers.key?(pair.name) }
        end

        # @return [Array<Array(Integer, String)>] the same of those that carry none, and of which there is
        #   something to say, and of those with another name than that of the role which they carry
        def strange_pairs
          return NONE if foreign.empty? && placed.none? { |one| one.reading.misnamed? }

          misnamed = placed.select { |one| one.reading.misnamed? }.map(&:number)
          numbered { |_, number| foreign.key?(number) || misnamed.include?(number) }
        end

        # @return [Array<Array(Integer, String)>] the same of those with the name of an identifier, or that
        #   may have been meant for one
        def identifier_pairs
          @others.select { |_, pair| @rules.names.include?(pair.name) || @rules.names.meant(pair.name) }
            .map { |number, pair| [number, pair.raw] }
        end

        # @return [Array<Address::Pair>, nil] the pairs that carry roles, nil where others may come to carry
        #   one when nothing but the rules for values changes
        def pairs_alone
          return unless foreign.empty? && placed.none? { |one| one.reading.misnamed? }
          return if @others.any? { |_, pair| @rules.role(pair.name) }

          placed.map { |one| @address.pairs[one.number] }
        end

        # @return [Array<Reading>] every carrier on the address, and every name that was meant to be one, in
        #   order
        def readings = @readings ||= placed.map(&:reading)

        # @param role [String]
        # @return [Array<Reading>]
        def readings_of(role) = by_role.fetch(role, [])

        # @param role [String]
        # @return [Boolean] whether something carries it
        def role?(role) = by_role.key?(role)

        # @return [Array<Placed>] those with something wrong in their values
        def unsound = @unsound ||= placed.reject { |one| one.reading.sound? }

        # @return [Hash{String => String}] the values that a report would record, as they stand
        def as_written = @as_written ||= by_role.transform_values { |readings| readings.first.value }

        # @return [Hash{String => String}] the values as they would be if each were mended
        def mended = @mended ||= by_role.transform_values { |readings| readings.first.corrected }

        # @param visit [Hash{String => String}]
        # @return [Convention::ChannelRules::Answer]
        def channel(visit) = @convention.channel_rules.classify(visit)

        # @return [Hash{Integer => Array<String>}] by number of the pair, what its name may have been meant to
        #   be
        def misnamed
          found = placed.select { |one| one.reading.misnamed? }.to_h do |one|
            [one.number, [@rules.names.meant(one.reading.pair.name) || one.reading.role.carrier]]
          end
          foreign.each { |number, one| found[number] = one.near if one.near.any? }
          found
        end

        # @param number [Integer]
        # @return [Address::Pair] of the address as it should be built
        def pair_at(number) = @address.pairs[number]

        # @param number [Integer] of a pair on the address as it should be built
        # @return [Integer, nil] its number on the address as it was seen, nil where it is no parameter of its
        #   own there
        def number_seen(number)
          return number if @link.structure.sound?

          @link.seen.pairs.index { |pair| pair.raw == @address.pairs[number].raw }
        end

        # @param reading [Reading]
        # @return [Address::Pair] as it stands on this address
        def pair_of(reading) = @address.pairs[placed.find { |one| one.reading.equal?(reading) }.number]

        # @param reading [Reading]
        # @return [Integer] of the first pair that says the same
        def number_of(reading) = @address.pairs.index { |pair| pair.raw == reading.pair.raw }

        # @param role [Convention::Role]
        # @return [Array<Integer>] of the pairs that carry it or were meant to
        def numbers_of(role)
          carriers = role.carriers
          @address.pairs.each_index.select do |number|
            name = @address.pairs[number].name
            name && (carriers.include?(name) || carriers.include?(@rules.names.meant(name)))
          end
        end

        # @param identifier [Convention::Identifier]
        # @return [Array<Address::Pair>] those that carry it or were meant to
        def pairs_for(identifier)
          @address.pairs.select do |pair|
            pair.name == identifier.parameter || @rules.names.meant(pair.name) == identifier.parameter
          end
        end

        # @param name [String] of a carrier or an identifier
        # @return [Array<Address::Pair>]
        def occurrences(name) = @rules.names.include?(name) ? @address.occurrences(name) : []

        # @return [Array<String>] names of carriers, of required identifiers, and those that were meant as one
        #   of them
        def campaign_names
          known = @address.pairs.map(&:name).select { |name| @rules.names.include?(name) }
          meant = foreign.select { |_, one| one.near.any? }.keys.map { |number| @address.pairs[number].name }
          (readings.map { |reading| reading.pair.name } + known + meant).uniq
        end

        # @param names [Array<String>]
        # @return [Address] the link without these parameters
        def without(names)
          gone = @address.pairs.select { |pair| names.include?(pair.name) }
          @address.with(edits: gone.to_h { |pair| [pair, nil] })
        end

        private

        def numbered
          @address.pairs.each_with_index.filter_map do |pair, number|
            [number, pair.raw] if yield(pair, number)
          end
        end

        def by_role = @by_role ||= readings.group_by { |reading| reading.role.name }

        # Plain carriers first: what else may have been meant for a role depends on whether it has one.
        def assign_roles
          @foreign = {}
          @placed = []
          @others = NOTHING
          carriers = @rules.carriers
          @address.pairs.each_with_index do |pair, number|
            role = carriers[pair.name]
            next @placed << Placed.new(reading(pair, role), number) if role

            @others = {} if @others.equal?(NOTHING)
            @others[number] = pair
          end
          in_order = @placed.size
          @others.each { |number, pair| assign_meant(pair, number) }
          take_bare_names if @foreign.any? { |_, one| one.bare }
          @placed.sort_by!(&:number) if @placed.size > in_order
        end

        # Of a role that the link carries, another name that was meant for it says nothing more.
        def assign_meant(pair, number)
          near = @rules.names.near(pair.name)
          role = @rules.carriers[near.first] if near.size == 1
          if role && @placed.none? { |one| one.reading.role.name == role.name }
            return @placed << Placed.new(reading(pair, role), number)
          end

          bare = bare_role(pair)
          personal = @convention.personal_data.find(pair.raw_value, field: pair.name)
          token = Tokens.loose(pair, @link)
          return unless near.any? || bare || personal || token

          @foreign[number] = Foreign.new(near: near, bare: bare, personal: personal, token: token)
        end

        def bare_role(pair)
          role = @rules.role(pair.name) or return
          return if @rules.names.include?(pair.name) || @convention.own_parameters.key?(pair.name)

          role if role.vocabulary.known(pair.value)
        end

        # A role's bare name is meant as its carrier only where the role has none.
        def take_bare_names
          carried = @placed.map { |one| one.reading.role.name }
          @foreign.select { |_, one| one.bare && !carried.include?(one.bare.name) }.each do |number, one|
            @foreign.delete(number)
            @placed << Placed.new(Reading.new(@address.pairs[number], one.bare, scope), number)
          end
        end

        def reading(pair, role) = Reading.of(pair, role, scope)

        def scope
          @scope ||= Reading::Scope.new(@convention, @link.kind, @link.whereabouts.network, @rules)
        end
      end
    end
  end
end
