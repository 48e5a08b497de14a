# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # The base of checks that look at one value at a time.
      class ValueCheck < Check
        class << self
          # @param name [Symbol] the fault of a reading that the check reports
          def reports(name) = @fault = name

          attr_reader :fault
        end

        means :wrong_value
        reads :faults

        # Most values are sound, and a sound one concerns none of these checks.
        def self.concerns?(subject) = subject.unsound.any?

        def findings
          subject.unsound.select { |one| one.reading.faults.include?(self.class.fault) }
            .map { |one| report(one.reading, one.number) }
        end

        private

        def report(reading, number)
          correction = usable(reading, correction(reading))
          finding(message(reading), parameter: reading.pair.name, weight: weight(reading),
            place: {"role" => reading.role.name, "pair" => subject.number_seen(number), **place(reading)},
            evidence: [reading.pair.raw],
            correction: correction,
            edits: correction && [Edit.new(
              pair: subject.pair_at(number),
              value: edit_value(reading, correction)
            )],
            root: "#{self.class.code} #{reading.pair.name}=#{reading.value}",
            remedy: Remedy.new(at: "sighting", **remedy(reading, correction)))
        end

        # What would itself be wrong there is no correction: then a person must say what was meant.
        def usable(reading, correction)
          return if correction.nil? || correction == reading.value

          correction if reading.takes?(edit_value(reading, correction))
        end

        def remedy(reading, correction)
          unless correction
            return {action: "Give #{reading.pair.name} a permitted value instead of “#{reading.value}”."}
          end

          {
            action: "Write “#{correction}” instead of “#{reading.value}” in #{reading.pair.name}.",
            value: correction
          }
        end

        # What is known of the place within the value.
        def place(_reading) = {}

        def weight(_reading) = self.class.weight

        def correction(reading)
          reading.corrected if reading.tokens.found.empty? || reading.tokens.templated?
        end

        def edit_value(reading, correction)
          (correction == reading.corrected) ? reading.rewritten : correction
        end
      end
    end
  end
end
