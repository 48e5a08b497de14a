# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds sources and mediums that are permitted each, but not together.
      class Pair < Check
        describes "param/pair", weight: "skews",
          why: "A source with a medium it never has puts visits into another channel than all the rest of that source.",
          fails: "utm_source=lanternfind&utm_medium=email&click_no=1", passes: "utm_source=lanternfind&utm_medium=paid-search&click_no=1"
        reads :faults
        means :wrong_value

        def findings
          source, medium = %w[source medium].map { |role| value(role) }
          if source && medium && permitted(source).any? && !permitted(source).include?(medium)
            [report(source, medium)]
          else
            []
          end
        end

        private

        # A value that is permitted, or was plainly meant as one that is; nil where the link says two things.
        def value(role)
          readings = subject.readings_of(role)
          values = readings.map(&:corrected)
          if values.any? &&
              values.uniq.size == 1 &&
              readings.all? { |one|
                one.legible? &&
                    !one.tokens.templated? &&
                    one.role.vocabulary.include?(one.corrected)
              }
            values.first
          end
        end

        def permitted(source) = subject.convention.mediums_of(source)

        def report(source, medium)
          reading = subject.readings_of("medium").first
          fitting = permitted(source)
          only = fitting.first if fitting.size == 1 && subject.readings_of("medium").size == 1
          finding("Source “#{source}” and medium “#{medium}” are not permitted together, so these visits stand apart from the rest of #{source}; it goes with #{fitting.map { |one| "“#{one}”" }.join(" or ")}.",
            parameter: reading.pair.name,
            place: {"role" => "medium"},
            evidence: [subject.readings_of("source").first.pair.raw, reading.pair.raw],
            correction: only,
            edits: only && [Edit.new(pair: subject.pair_of(reading), value: only)],
            root: "param/pair #{source} / #{medium}",
            remedy: Remedy.new(
              at: "sighting",
              action: "Give source “#{source}” one of its own mediums: #{fitting.join(", ")}.",
              value: only
            ))
        end
      end
    end
  end
end
