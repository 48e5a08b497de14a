# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds parameter names that were meant to be a carrier or a required identifier.
      class MisspelledName < Check
        describes "param/misspelled-name", weight: "breaks",
          why: "Readers know a parameter by its exact name: under any other, its value is not recorded at all.",
          fails: "utm_soruce=island-letter&utm_medium=email", passes: "utm_source=island-letter&utm_medium=email"

        def findings
          subject.misnamed.sort.map { |number, meant| report(subject.address.pairs[number], number, meant) }
        end

        private

        def report(pair, number, meant)
          role = subject.rules.carriers[meant]
          finding("#{shown(pair.name)} is not #{meant}, so nobody reads its value#{" as the #{role.name}" if role}.",
            parameter: pair.name, place: {"pair" => subject.number_seen(number), "role" => role&.name, "name" => true}.compact, evidence: [pair.raw], correction: meant,
            edits: [Edit.new(pair: pair, name: meant)], root: "param/misspelled-name #{pair.name}",
            remedy: Remedy.new(at: "sighting", action: "Write #{meant} instead of #{shown(pair.name)}.", value: meant))
        end

        def shown(name) = name.match?(/\A[\w-]+\z/) ? name : name.inspect
      end
    end
  end
end
