# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds carriers without a value; a value of white space only is none.
      class Empty < ValueCheck
        describes "param/empty", weight: "breaks",
          why: "A parameter without a value counts as absent in most reports, and hides the value that should be there.",
          fails: "utm_source=&utm_medium=email", passes: "utm_source=island-letter&utm_medium=email"
        reports :empty

        private

        def weight(reading) = required?(reading.role) ? "breaks" : "untidy"

        def required?(role) = role.required?(kind: subject.kind, channel: subject.channel(subject.mended).channel, paid: subject.paid?)

        def message(reading) = "#{reading.pair.name} is there but empty, so the #{reading.role.name} is not recorded."

        # A value that is empty says nothing against the one that the rest of the link leaves.
        def correction(reading)
          others = subject.readings - [reading]
          return unless required?(reading.role) && %w[source medium].include?(reading.role.name) && others.none? { |one| one.role.name == reading.role.name }

          values = subject.convention.pairs.select { |pair| fits?(pair, reading.role.name, others) }.map { |pair| (reading.role.name == "source") ? pair.source : pair.medium }.uniq
          values.first if values.size == 1
        end

        def fits?(pair, role, others)
          return false unless pair.kinds.empty? || pair.kinds.include?(subject.kind)

          other = (role == "source") ? "medium" : "source"
          said = others.select { |one| one.role.name == other }
          said.any? && said.all? { |one| one.corrected == pair[other.to_sym] }
        end

        def remedy(reading, correction)
          correction ? {action: "Write “#{correction}” in #{reading.pair.name}.", value: correction} : {action: "Give #{reading.pair.name} its value."}
        end
      end
    end
  end
end
