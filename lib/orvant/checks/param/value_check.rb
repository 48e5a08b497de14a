# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # The base of checks that look at one value at a time.
      class ValueCheck < Check
        def findings
          subject.readings.select { |reading| broken?(reading) }.map { |reading| report(reading) }
        end

        private

        def report(reading)
          correction = correction(reading)
          finding(message(reading), parameter: reading.pair.name, weight: weight(reading),
            place: {"role" => reading.role.name, "pair" => subject.address.pairs.index(reading.pair)},
            evidence: [reading.pair.raw], correction: (correction unless correction == reading.value),
            root: "#{self.class.code} #{reading.pair.name}=#{reading.value}",
            remedy: Remedy.new(at: "sighting", **remedy(reading, correction)))
        end

        def remedy(reading, correction)
          return {action: "Give #{reading.pair.name} a permitted value instead of “#{reading.value}”."} unless correction

          {action: "Write “#{correction}” instead of “#{reading.value}” in #{reading.pair.name}.", value: correction}
        end

        def weight(_reading) = self.class.weight

        def correction(reading)
          reading.corrected if reading.legible?
        end
      end
    end
  end
end
