# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds parameter names that were meant to be a carrier or a required identifier.
      class MisspelledName < Check
        describes "param/misspelled-name", weight: "breaks",
          why: "Readers know a parameter by its exact name: under any other, its value is not recorded at all.",
          fails: "utm_soruce=island-letter&utm_medium=email", passes: "utm_source=island-letter&utm_medium=email"
        reads :faults, :names, :identifiers
        means :no_value

        def findings
          subject.misnamed.sort.map do |number, near|
            if near.size == 1
              report(subject.pair_at(number), number, near.first)
            else
              unclear(subject.pair_at(number), number, near)
            end
          end
        end

        private

        # The same slip may lead to two names.
        def unclear(pair, number, near)
          finding("#{shown(pair.name)} is a slip away from #{near.join(" and from ")}, and is neither: nobody reads its value.",
            parameter: pair.name,
            place: {"pair" => subject.number_seen(number), "name" => true}.compact,
            evidence: [pair.raw],
            root: "param/misspelled-name #{pair.name}",
            remedy: Remedy.new(
              at: "sighting",
              action: "Write the name that was meant, #{near.join(" or ")}, instead of #{shown(pair.name)}."
            ))
        end

        # Where the carrier stands besides, the other name can only go; what it says in its stead nobody can
        # tell.
        def edits(pair, meant)
          carried = subject.occurrences(meant)
          return [Edit.new(pair: pair, name: meant)] if carried.empty?

          [Edit.new(pair: pair, remove: true)] if carried.any? { |one| one.value == pair.value }
        end

        # A second carrier in its place would be given twice.
        def offered(pair, meant) = edits(pair, meant)&.first&.name

        def action(pair, meant)
          edit = edits(pair, meant)&.first
          return "Take #{shown(pair.name)} out: #{meant} stands there with the same value." if edit&.remove
          return "Write #{meant} instead of #{shown(pair.name)}." if edit

          "#{meant} stands there besides, with another value: say which of the two is meant, and take the other out."
        end

        def report(pair, number, meant)
          role = subject.rules.carriers[meant]
          finding("#{shown(pair.name)} is not #{meant}, so nobody reads its value#{" as the #{role.name}" if role}.",
            parameter: pair.name,
            place: {"pair" => subject.number_seen(number), "role" => role&.name, "name" => true}.compact,
            evidence: [pair.raw],
            correction: offered(pair, meant),
            edits: edits(pair, meant), root: "param/misspelled-name #{pair.name}",
            remedy: Remedy.new(
              at: "sighting",
              action: action(pair, meant),
              value: offered(pair, meant)
            ))
        end

        def shown(name) = name.match?(/\A[\w-]+\z/) ? name : name.inspect
      end
    end
  end
end
