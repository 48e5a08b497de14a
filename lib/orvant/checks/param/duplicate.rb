# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds roles that are given twice, by one carrier or by two.
      class Duplicate < Check
        describes "param/duplicate", weight: "skews",
          why: "Of two values some readers take the first and some the last, so two reports on one visit disagree.",
          fails: "utm_source=island-letter&utm_medium=email&utm_medium=email", passes: "utm_source=island-letter&utm_medium=email"
        reads :faults
        means :wrong_value

        def self.concerns?(subject) = subject.readings.size > 1

        def findings
          subject.readings.group_by(&:role).select { |_, readings| readings.size > 1 }
            .map { |role, readings| report(role, readings) }
        end

        private

        def report(role, readings)
          equal = readings.map(&:corrected).uniq.size == 1
          finding("#{names(readings)}: the #{role.name} is given #{(readings.size == 2) ? "twice" : "#{readings.size} times"}#{said(readings)}.",
            parameter: readings.last.pair.name,
            place: {"role" => role.name, "pairs" => numbers(role)},
            evidence: readings.map { |reading| reading.pair.raw },
            edits: (removals(role) if equal),
            root: "param/duplicate #{readings.map { |reading| reading.pair.name }.uniq.join(" ")}",
            remedy: Remedy.new(at: "sighting", action: "Keep one #{role.name} on the links here."))
        end

        def removals(role)
          numbers(role).drop(1).map { |number| Edit.new(pair: subject.pair_at(number), remove: true) }
        end

        def numbers(role) = subject.numbers_of(role)

        def names(readings) = readings.map { |reading| reading.pair.name }.uniq.join(" and ")

        def said(readings)
          values = readings.map(&:value)
          if values.uniq.size == 1
            ", with one value"
          else
            ", and readers disagree: those that take the first record “#{values.first}”, those that take the last “#{values.last}”"
          end
        end
      end
    end
  end
end
