# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # What the family judges: a trail, read through a convention.
      class TrailSubject
        attr_reader :trail, :convention

        def initialize(trail, convention)
          @trail = trail
          @convention = convention
        end

        # @return [Array<Address>] the address of each hop, and where the last one led if it was not requested
        def addresses
          @addresses ||= begin
            list = trail.hops.map { |hop| Address.new(hop.address) }
            (list.last&.raw == trail.final_address) ? list : list + [Address.new(trail.final_address)]
          end
        end

        # @return [Address, nil] the hop before the last, where it is a relay host's: a register entry that someone can change
        def last_relay
          before = addresses[-2]
          before if before && convention.relay_hosts.cover?(before.host)
        end

        # @return [String] the landing page without its parameters: one root for all links that lead there
        def page = addresses.last.page

        # @return [Boolean] whether the trail ever touches the advertiser: foreign links are not its affair
        def own?
          addresses.any? { |address| convention.own_hosts.cover?(address.host) || convention.relay_hosts.cover?(address.host) }
        end

        # @return [String] the hops as lines of evidence
        def lines
          trail.hops.map { |hop| [hop.status || "no answer", hop.address].join("  ") }
        end
      end
    end
  end
end
