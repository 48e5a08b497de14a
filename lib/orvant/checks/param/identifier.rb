# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds links that lack an identifier which the convention requires of their kind.
      class Identifier < Check
        describes "param/identifier", weight: "skews",
          why: "Without its identifier a click cannot be joined to its cost, nor told from any other click of the campaign.",
          fails: "utm_source=lanternfind&utm_medium=paid-search", passes: "utm_source=lanternfind&utm_medium=paid-search&click_no=8841"

        def findings
          subject.identifiers.filter_map do |identifier|
            pairs = subject.address.pairs.select { |pair| pair.name == identifier.parameter || subject.rules.names.meant(pair.name) == identifier.parameter }
            report(identifier, pairs) if pairs.all? { |pair| pair.value.strip.empty? }
          end
        end

        private

        def report(identifier, pairs)
          finding("The link carries no #{identifier.parameter}#{", it is there but empty" if pairs.any?}: its clicks cannot be told apart or joined to their cost.",
            parameter: identifier.parameter, place: {"parameter" => identifier.parameter}, evidence: [subject.seen.raw], root: "param/identifier #{identifier.parameter}",
            remedy: Remedy.new(at: "sighting", action: "Add #{written(identifier)} to the links here.", value: identifier.token && written(identifier)))
        end

        def written(identifier) = [identifier.parameter, identifier.token].compact.join("=")
      end
    end
  end
end
