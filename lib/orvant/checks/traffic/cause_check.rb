# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # The base of checks that name the cause of a row.
      class CauseCheck < Check
        # Where more links may be behind a row than this, it tells of none of them in particular.
        MOST_LINKS = 200
        # Addresses of them that stand as evidence.
        MOST_EVIDENCE = 10

        private

        # @param cause [String] a short name: rows with one cause are shown together
        # @param facts [Array<Orvant::Traffic::LinkFact>] the links behind it
        # @param codes [Array<String>] the findings on those links that are the root
        # @param role [String, nil] the role whose findings count
        # @param becomes [String, nil] the channel after the fix
        def caused(cause, message, facts: [], codes: [], role: nil, becomes: nil, root: nil, remedy: nil)
          roots = subject.knowledge.once(facts, [codes, role]) do
            facts.filter_map { |fact| fact.root(*codes, role: role) }.uniq
          end
          roots = [root] if roots.empty? && root
          finding(message,
            place: {
              "cause" => cause,
              "links" => facts.first(MOST_LINKS).map(&:id),
              "roots" => roots,
              "becomes" => becomes
            },
            evidence: facts.empty? ? [row] : facts.first(MOST_EVIDENCE).map(&:address),
            root: roots.first,
            remedy: remedy)
        end

        # What the row says, where no link is known to be behind it.
        def row
          said = Orvant::Traffic::DIMENSIONS.to_h { |name| [name, subject.value(name.to_s).to_s] }
          said.reject { |_, value| value.empty? }.map { |name, value| "#{name}: #{value}" }.join(" · ")
        end

        def named(facts)
          places = subject.knowledge.once(facts, :places) do
            facts.map { |fact| fact.place.empty? ? fact.kind : fact.place }.uniq
          end
          (places.size > 2) ? "#{places.first(2).join("; ")} and #{places.size - 2} more" : places.join("; ")
        end
      end
    end
  end
end
