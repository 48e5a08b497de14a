# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds values that belong to another role, such as a campaign's name as the medium.
      class WrongRole < ValueCheck
        describes "param/wrong-role", weight: "skews",
          why: "A value in the wrong parameter fills the wrong report, and leaves its own without it.",
          fails: "utm_source=email&utm_medium=island-letter", passes: "utm_source=island-letter&utm_medium=email"
        reports :wrong_role

        private

        def report(reading, number)
          super.tap do |finding|
            other = exchange(reading)
            finding.correction = other&.value
            if other
              finding.root = "#{self.class.code} exchange #{[reading, other].map { |one| "#{one.pair.name}=#{one.value}" }.sort.join(" ")}"
            end
            finding.edits = other && [
              Edit.new(pair: subject.pair_at(number), value: other.wording.folded),
              Edit.new(pair: subject.pair_of(other), value: reading.wording.folded)
            ]
          end
        end

        # The one parameter with which an exchange puts both values where they belong.
        def exchange(reading)
          others = subject.readings_of(reading.rightful_role.name)
          if others.size == 1 &&
              reading.role.acceptable?(others.first.wording.folded) &&
              others.first.role.acceptable?(reading.wording.folded)
            others.first
          end
        end

        def correction(_reading) = nil

        def place(reading) = {"rightful_role" => reading.rightful_role.name}

        def remedy(reading, _correction)
          other = exchange(reading)
          if other
            return {action: "Exchange the values of #{[reading.pair.name, other.pair.name].sort.join(" and ")}."}
          end

          {action: "Put “#{reading.value}” into #{reading.rightful_role.carrier}, and a #{reading.role.name} into #{reading.pair.name}."}
        end

        def message(reading)
          "#{reading.pair.name} is “#{reading.value}”, which is a #{reading.rightful_role.name}: the visits stand in the wrong report, without a #{reading.role.name}."
        end
      end
    end
  end
end
