# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds links whose place carried required roles when its source was last read, and carries them no
      # more.
      class Lost < Check
        describes "param/lost", weight: "breaks",
          why: "An ad whose format was changed or a message that was built anew loses its parameters silently: from that day on its visits have no source.",
          fails: Sample.ad("utm_campaign=walks", network: "Lanternfind", lost: "source,medium"),
          passes: Sample.ad("utm_source=lanternfind&utm_medium=paid-search&click_no=1", network: "Lanternfind", lost: "source,medium")
        reads :lost, :required, :faults
        means :no_value

        def self.concerns?(subject) = subject.lost.any?

        def findings
          roles = subject.missing_roles.map(&:name) & subject.lost
          return [] if roles.empty?

          [report(subject.robbed, roles)]
        end

        private

        def report(sighting, roles)
          written = sighting.facts["lost written"].to_s
          by = sighting.facts["lost by"]
          finding("#{sighting.place.to_s.empty? ? "It" : "“#{sighting.place}”"} carried its #{roles.join(" and ")} when its source was last read, and does not any more#{" (#{by})" if by}: its visits have no source.",
            parameter: subject.rules.role(roles.first).carrier,
            place: {"roles" => roles},
            evidence: [subject.evidence, ("before: #{written}" unless written.empty?)].compact,
            edits: edits(roles, written),
            root: "param/lost #{sighting.key || sighting.place}",
            remedy: Remedy.new(
              at: "sighting",
              action: "Put back what was lost#{": #{written}" unless written.empty?}.",
              value: (written unless written.empty?)
            ))
        end

        def edits(roles, written)
          carriers = roles.flat_map { |role| subject.rules.role(role).carriers }
          pairs = Address::Pair.split(written).select { |pair| carriers.include?(pair.name) }
          if pairs.any?
            pairs.map { |pair| Edit.new(name: pair.name, value: Address::Pair::Written.new(pair.raw_value)) }
          end
        end
      end
    end
  end
end
