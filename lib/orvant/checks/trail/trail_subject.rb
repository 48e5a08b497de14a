# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # What the family judges: a trail, read through a convention.
      class TrailSubject
        attr_reader :trail, :convention, :sightings

        # @param sightings [Array<Inventory::Sighting>] where the link was found
        def initialize(trail, convention, sightings: [])
          @trail = trail
          @convention = convention
          @sightings = sightings
        end

        # @return [Array<Address>] the address of each hop, and where the last one led if it was not requested
        def addresses
          @addresses ||= begin
            list = trail.hops.map { |hop| Address.of(hop.address) }
            (list.last&.raw == trail.final_address) ? list : list + [Address.of(trail.final_address)]
          end
        end

        # @return [Array<Address>] targets of the register to which the link does not lead
        def stale_targets
          return [] if %w[refused unreachable].include?(trail.outcome) && addresses.size < 2

          sightings.filter_map(&:target).uniq(&:normal_form).reject { |target| leads_to?(target) }
        end

        # @return [String] what findings on a short link with a stale target share, what it loses on the way
        #   among them
        def stale_root = "trail/stale-target #{addresses.first.page}"

        # @return [Address, nil] the hop before the last, where it is a relay host's: a register entry that
        #   someone can change
        def last_relay
          before = addresses[-2]
          before if before && convention.relay_hosts.cover?(before.host)
        end

        # @return [String] the landing page without its parameters: one root for all links that lead there
        def page = addresses.last.page

        # @return [Boolean] whether the trail ever touches the advertiser: foreign links are not its affair
        def own?
          return @own if defined?(@own)

          @own = addresses.any? { |address| ours?(address) }
        end

        # Kinds of what the advertiser itself gives out, whoever owns where it leads.
        PUBLISHED = %w[ad message print short-link].freeze

        # @return [Boolean] whether it is the advertiser's affair where the link leads
        def concerns?
          own? || sightings.any? { |one| PUBLISHED.include?(one.kind) }
        end

        # @return [Orvant::Address, nil] the last address of the advertiser's own on the way, or of someone it
        #   works with
        def last_of_ours = addresses.reverse.find { |address| ours?(address) }

        LISTS = %i[own_hosts relay_hosts payment_hosts billed_hosts known_hosts partner_hosts mail_hosts social_hosts search_hosts].freeze

        # @param host [String]
        # @return [Boolean] whether the convention names it in some list
        def listed?(host) = LISTS.any? { |list| convention.public_send(list).cover?(host) }

        # @param host [String]
        # @return [Boolean] whether the link says itself that it leads there, or its place does
        def meant?(host)
          return true if site(addresses.first.host) == site(host)

          named = sightings.flat_map { |one| [one.declared, one.target] }.compact.map(&:host)
          (named + addresses.first.within.map(&:host)).any? { |one| site(one) == site(host) }
        end

        # @param host [String]
        # @return [String] the domain under which its site is registered
        def site(host) = Orvant::Address::HostName.site(host)

        # @param fate [Orvant::Trail::Fate]
        # @return [String] the parameter with the role that it carries
        def named(fate)
          role = convention.carriers[fate.name]
          return "#{fate.name} (#{role.name})" if role

          convention.identifier?(fate.name) ? "#{fate.name} (click identifier)" : fate.name
        end

        # @param name [String] of a parameter
        # @return [Boolean] whether it is watched on the way: a carrier, or an identifier that links must
        #   carry
        def watched?(name) = convention.carriers.key?(name) || convention.identifier?(name)

        # @param names [Array<String>] of parameters that are watched
        # @return [Boolean] whether none of them is a carrier, so that visits still say where they come from
        def identifiers?(names) = names.none? { |name| convention.carriers.key?(name) }

        # @param fates [Array<String>]
        # @yieldparam index [Integer] of the hop, from 0
        # @yieldparam watched [Array<Orvant::Trail::Fate>] what it did to parameters that are watched, of
        #   those fates
        # @return [Array] what the block returns for each hop that did such a thing
        def hops_with(fates)
          trail.hops.each_with_index.filter_map do |hop, index|
            found = hop.params.select { |fate| fates.include?(fate.fate) && watched?(fate.name) }
            yield index, found if found.any?
          end
        end

        # @param address [Address]
        # @return [Boolean] whether the advertiser or someone it works with answers there
        def ours?(address) = convention.ours?(address.host)

        # Further parameters may have been handed on from the link.
        def leads_to?(target)
          reached = addresses[1] || addresses.first
          reached.page == target.page &&
            reached.scheme == target.scheme.downcase &&
            target.pairs.all? { |pair| reached.occurrences(pair.name).any? { |one| one.value == pair.value } }
        end

        # @return [String] the hops as lines of evidence
        def lines
          trail.hops.map { |hop| [hop.status || "no answer", hop.address].join("  ") }
        end
      end
    end
  end
end
