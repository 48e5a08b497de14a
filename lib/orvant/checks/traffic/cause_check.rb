# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # The base of checks that name the cause of a row.
      class CauseCheck < Check
        private

        # @param cause [String] a short name: rows with one cause are shown together
        # @param facts [Array<Orvant::Traffic::LinkFact>] the links behind it
        # @param codes [Array<String>] the findings on those links that are the root
        # @param role [String, nil] the role whose findings count
        # @param becomes [String, nil] the channel after the fix
        def caused(cause, message, facts: [], codes: [], role: nil, becomes: nil, root: nil, remedy: nil)
          roots = facts.filter_map { |fact| fact.root(*codes, role: role) }.uniq
          roots = [root] if roots.empty? && root
          finding(message, place: {"cause" => cause, "links" => facts.map(&:id), "roots" => roots, "becomes" => becomes},
            evidence: facts.first(10).map(&:address), root: roots.first, remedy: remedy)
        end

        def named(facts)
          places = facts.map { |fact| fact.place.empty? ? fact.kind : fact.place }.uniq
          (places.size > 2) ? "#{places.first(2).join("; ")} and #{places.size - 2} more" : places.join("; ")
        end
      end
    end
  end
end
