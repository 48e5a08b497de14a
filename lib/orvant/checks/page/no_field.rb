# frozen_string_literal: true

module Orvant
  module Checks
    module Page
      # Finds forms without the hidden field that is to carry a visit's attribution, or with one that stays
      # empty.
      class NoField < Check
        describes "page/no-field", weight: "breaks",
          why: "An enquiry that does not carry where its visitor came from can never be credited to a campaign, whatever the tags say.",
          fails: {"hidden" => {}}, passes: {"hidden" => {"lead_source" => "island-letter"}}
        means :absence
        asks :expected_fields, :states, :rehearsal

        # @param run [Rehearsal::Run]
        # @return [Array<Finding>] on fields that a step expects to hold something
        def self.of_run(run)
          run.score.holding_otherwise.select { |one| one.kind == "field" }
            .map { |one| new(nil).of_step(one, run) }
        end

        # @param held [Rehearsal::Score::Holding]
        # @param run [Rehearsal::Run]
        # @return [Finding]
        def of_step(held, run)
          page = Address.new(run.steps.find { |step| step["number"] == held.step }["page"].to_s).page
          wanted = if held.wanted == true
            ""
          else
            " where #{held.role ? "the landing says #{held.role}" : "the rehearsal expects"} “#{held.wanted[0, Cut::QUOTE]}”"
          end
          finding("The field #{held.name} #{held.found.to_s.empty? ? "went without a value" : "held “#{held.found[0, Cut::QUOTE]}”"} in step #{held.step}#{wanted}: enquiries arrive without what it should say.",
            place: {"field" => held.name, "step" => held.step, "rehearsal" => run.rehearsal},
            evidence: ["#{held.name}=#{held.found}"],
            root: "page/no-field #{held.name} #{page}",
            remedy: Remedy.new(
              action: "Let the form carry #{held.name}, filled with #{held.role ? "the visit's #{held.role}" : "what the rehearsal expects"}.",
              at: "page",
              place: page
            ))
        end

        def findings
          subject.expected_fields.filter_map { |expected| report(expected, values(expected["field"])) }
        end

        private

        def values(field) = subject.facts["forms"].to_a.filter_map { |form| form["hidden"].to_h[field] }

        def report(expected, values)
          field = expected["field"]
          wanted = subject.convention.value_in(subject.address, expected["role"])
          if values.empty?
            return build(
              field,
              expected,
              "No form on this page has the hidden field #{field}, so enquiries arrive without their #{expected["role"]}.",
              values
            )
          end
          return if wanted.nil? || values.include?(wanted)

          build(
            field,
            expected,
            "The hidden field #{field} holds “#{values.first[0, Cut::QUOTE]}” where the address says “#{wanted[0, Cut::QUOTE]}”: enquiries arrive with the wrong #{expected["role"]}, or none.",
            values
          )
        end

        def build(field, expected, message, values)
          finding(message,
            place: {"field" => field, "page" => subject.visit.page},
            evidence: subject.lines + values.map { |value| "#{field}=#{value}" },
            root: "page/no-field #{field} #{subject.visit.page}",
            remedy: Remedy.new(
              action: "Let the form carry #{field}, filled with the visit's #{expected["role"]}.",
              at: "page",
              place: subject.visit.page
            ))
        end
      end
    end
  end
end
