# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds links that lack an identifier which the convention requires of their kind.
      class Identifier < Check
        describes "param/identifier", weight: "skews",
          why: "Without its identifier a click cannot be joined to its cost, nor told from any other click of the campaign.",
          fails: "utm_source=lanternfind&utm_medium=paid-search", passes: "utm_source=lanternfind&utm_medium=paid-search&click_no=8841"
        reads :identifiers, :faults, :required

        def findings
          subject.identifiers.filter_map do |identifier|
            pairs = subject.pairs_for(identifier)
            if pairs.all? { |pair| pair.value.strip.empty? }
              next report(identifier, pairs, lack(identifier, pairs))
            end

            strange = pairs.find { |pair| subject.demanded_otherwise(pair) == identifier }
            if strange
              report(
                identifier,
                [strange],
                "The link carries #{identifier.parameter} with #{strange.value}, where #{identifier.token} is asked for: its clicks cannot be joined to their cost."
              )
            end
          end
        end

        private

        def lack(identifier, pairs)
          "The link carries no #{identifier.parameter}#{", it is there but empty" if pairs.any?}: its clicks cannot be told apart or joined to their cost."
        end

        def report(identifier, pairs, message)
          finding(message,
            parameter: identifier.parameter,
            place: {"parameter" => identifier.parameter},
            evidence: [subject.evidence],
            root: "param/identifier #{identifier.parameter}",
            correction: correction(identifier),
            edits: edits(identifier, pairs),
            remedy: Remedy.new(
              at: "sighting",
              action: "Add #{written(identifier)} to the links here.",
              value: identifier.token && written(identifier)
            ))
        end

        # Only an ad's token is still filled.
        def correction(identifier) = (identifier.token if subject.kind == "ad")

        def edits(identifier, pairs)
          return unless correction(identifier)

          value = Address::Pair::Written.new(identifier.token)
          if pairs.empty?
            [Edit.new(name: identifier.parameter, value: value)]
          else
            [Edit.new(pair: pairs.first, value: value)]
          end
        end

        def written(identifier) = [identifier.parameter, identifier.token].compact.join("=")
      end
    end
  end
end
