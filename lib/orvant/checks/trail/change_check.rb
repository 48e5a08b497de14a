# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # The base of checks that find hops which change the value of a carrier for good.
      class ChangeCheck < Check
        def findings
          return [] unless subject.trail.answered? && subject.own?

          subject.hops_with(%w[altered added]) do |index, fates|
            changed = fates.select { |fate| concerns?(fate, index) && for_good?(fate) }
            report(index, changed) if changed.any?
          end
        end

        private

        def for_good?(fate)
          before = fate.before || link_value(fate)
          subject.addresses.last.occurrences(fate.name).map(&:value) != [before]
        end

        # @return [String, nil] what the link itself says, or the address within it
        def link_value(fate)
          link = subject.addresses.first
          [link, *link.within].flat_map { |address| address.occurrences(fate.name) }.first&.value
        end

        def report(index, fates)
          server = subject.addresses[index].host
          names = fates.map(&:name)
          finding("Hop #{index + 1}, at #{server}, #{deeds(fates)}: #{harm(subject.identifiers?(names))}",
            parameter: names.first,
            evidence: subject.lines,
            place: {"hop" => index + 1, "server" => server, "parameters" => names},
            root: "#{self.class.code} #{subject.addresses[index].page}",
            remedy: Remedy.new(action: action, at: "server", place: subject.addresses[index].page))
        end
      end
    end
  end
end
