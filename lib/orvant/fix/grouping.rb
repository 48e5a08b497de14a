# frozen_string_literal: true

module Orvant
  class Fix
    # Groups findings by their root into fixes.
    module Grouping
      class << self
        # @param entries [Array<Entry>]
        # @return [Array<Fix>]
        def of(entries)
          entries.group_by { |entry| root(entry) }.map { |root, same| fix(root, same) }
        end

        # What is wrong on a link is mended where the link stands, by whoever can change it there: the same
        # fault in the hands of two people is two pieces of work. Untagged links are mended place by place;
        # what follows a middle dot is the position in the place.
        #
        # @param entry [Entry]
        # @return [String]
        def root(entry)
          return entry.finding.root unless entry.finding.remedy.at == "sighting"

          seen = entry.sightings.first
          place = (entry.finding.code == "param/missing") ? seen&.place.to_s[/\A[^·]+/]&.strip : nil
          [entry.finding.root, seen&.kind, seen&.owner, place].compact.join(" | ")
        end

        # @param root [String]
        # @param entries [Array<Entry>] of this root, at least one
        # @return [Fix]
        def fix(root, entries)
          heaviest = entries.min_by { |entry| Finding::WEIGHTS.index(entry.finding.weight) }.finding
          remedy = entries.map { |entry| entry.finding.remedy }.max_by { |one| one.value ? 1 : 0 }
          Fix.new(root: root, codes: entries.map { |entry| entry.finding.code }.uniq, weight: heaviest.weight,
            action: remedy.action, value: remedy.value,
            at: remedy.at,
            place: remedy.place || places(entries),
            owner: owners(entries),
            findings: entries.map(&:id))
        end

        private

        def places(entries)
          found = entries.flat_map(&:sightings).map { |seen| seen.place.empty? ? seen.kind : seen.place }
          (found + entries.filter_map(&:page)).uniq.join("; ")[0, Cut::CELL]
        end

        def owners(entries)
          entries.flat_map(&:sightings).map(&:owner).reject(&:empty?).tally
            .sort_by { |_, count| -count }.map(&:first).first(3).join(", ")
        end
      end
    end
  end
end
