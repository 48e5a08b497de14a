# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds hosts on the way that the convention names in no list.
      class UnknownHop < Check
        describes "trail/unknown-hop", weight: "skews",
          why: "A host that nobody knows about sees every visitor, can change or lose parameters, and stops every link when it does.",
          fails: %w[http://skl.example/go http://hop.stranger.example/x http://www.skerryline.example/ 200],
          passes: %w[http://skl.example/go http://www.skerryline.example/ 200]

        def findings
          return [] unless subject.trail.answered? && subject.ours?(subject.addresses.last)

          subject.addresses[0...-1].each_with_index.reject { |address, _| listed?(address.host) }
            .uniq { |address, _| address.host }
            .map { |address, index| report(address, index) }
        end

        private

        def listed?(host)
          %i[own_hosts relay_hosts payment_hosts billed_hosts known_hosts].any? do |list|
            subject.convention.public_send(list).cover?(host)
          end
        end

        def report(address, index)
          finding("Hop #{index + 1} passes over #{address.host}, which stands in no list of the convention: nobody answers for what it does to parameters.",
            place: {"hop" => index + 1, "server" => address.host},
            evidence: subject.lines,
            root: "trail/unknown-hop #{address.host}",
            remedy: Remedy.new(
              action: "Find out who runs #{address.host}: list it as a known host, or link past it.",
              at: "convention",
              place: address.host
            ))
        end
      end
    end
  end
end
