# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds the hop that loses a carrier which the landing page then lacks.
      class Dropped < Check
        describes "trail/dropped", weight: "breaks",
          why: "A redirect that forgets the query makes a tagged link arrive untagged: its visits are recorded as direct.",
          fails: %w[http://skerryline.example/day-pass?utm_source=island-letter&utm_medium=email http://www.skerryline.example/day-pass 200],
          passes: %w[http://skerryline.example/day-pass?utm_source=island-letter&utm_medium=email http://www.skerryline.example/day-pass?utm_source=island-letter&utm_medium=email 200]
        means :no_value

        def findings
          return [] unless subject.trail.answered? && subject.own?

          subject.trail.hops.each_with_index.filter_map do |hop, index|
            lost = lost_for_good(hop, index)
            report(index, lost) if lost.any?
          end
        end

        private

        def lost_for_good(hop, index)
          return [] if hop.how == "history" # No hop: what a script strips from its own address is trail/altered.

          hop.params.select do |fate|
            %w[dropped moved].include?(fate.fate) &&
              subject.watched?(fate.name) &&
              !carried_later?(fate.name, index)
          end
        end

        def carried_later?(name, index)
          subject.addresses.last.occurrences(name).any? ||
            subject.trail.hops.drop(index + 1).any? { |hop|
              hop.params.any? { |fate|
                fate.name == name &&
                  %w[dropped moved].include?(fate.fate)
              }
            }
        end

        def remedy(from, to)
          whole_host = %i[host scheme].include?(Detour.change(from, to, subject.convention))
          here, there = [from, to].map do |address|
            whole_host ? "#{address.scheme}://#{address.host}" : address.page
          end
          Remedy.new(action: "Hand the query on where #{here} leads to #{there}.", at: "server", place: from.host)
        end

        # What is linked to until then is offered once it was followed.
        def offered(from, to, lost, hop)
          whole(to, lost, hop).raw if Detour.offerable?(from, to, subject.convention)
        end

        # A short link that leads elsewhere than its register says loses what its right target would have
        # carried: one root.
        def stale?(index) = index.zero? && subject.stale_targets.any?

        def deed(lost, hop)
          renamed, others = lost.partition { |fate| other_name(fate, hop) }
          gone, moved = others.partition { |fate| fate.fate == "dropped" }
            .map { |fates| fates.map { |fate| subject.named(fate) }.join(", ") }
          [
            ("loses #{gone}" unless gone.empty?),
            ("moves #{moved} behind the #" unless moved.empty?),
            *renamed.map { |fate| "writes #{subject.named(fate)} as #{other_name(fate, hop)}" }
          ].compact.join(" and ")
        end

        # @return [String, nil] the name in other letters or as in markup under which the hop hands it on
        def other_name(fate, hop)
          hop.params.find { |one|
            one.fate == "added" && Orvant::Trail::Arrival.plain_name(one.name) == fate.name.downcase
          }&.name
        end

        def harm(names)
          return "its clicks cannot be joined to their cost." if subject.identifiers?(names)

          "visits arrive without them and are recorded as direct."
        end

        # The address behind the hop with all that was lost on it, identifiers too; what was moved behind the
        # # is taken from there.
        def whole(to, lost, hop)
          rules = subject.convention.rules_for(host: to.host)
          built = Param::Structure.new(to, rules.names).address
          renamed = lost.filter_map { |fate| other_name(fate, hop) }
          gone = built.pairs.select { |pair| renamed.include?(pair.name) }
          built = built.with(edits: gone.to_h { |pair| [pair, nil] })
          built.with(added: lost.reject { |fate| built.occurrences(fate.name).any? }
            .map { |fate| [fate.name, fate.before] })
        end

        # What has lost its identifier alone still says where it comes from.
        def place(index, from, names)
          {"hop" => index + 1, "server" => from.host, "parameters" => names}
            .merge(subject.identifiers?(names) ? {"identifiers" => true} : {})
        end

        def report(index, lost)
          from, to = subject.addresses[index, 2]
          hop = subject.trail.hops[index]
          names = lost.map(&:name)
          finding("Hop #{index + 1}, at #{from.host}, #{deed(lost, hop)} (#{Detour.reason(from, to, subject.convention)}): #{harm(names)}",
            weight: subject.identifiers?(names) ? "skews" : "breaks",
            parameter: names.first, place: place(index, from, names),
            evidence: subject.lines,
            corrected_address: offered(from, to, lost, hop),
            root: stale?(index) ? subject.stale_root : "trail/dropped #{Detour.root(from, to, subject.convention)}",
            remedy: remedy(from, to))
        end
      end
    end
  end
end
