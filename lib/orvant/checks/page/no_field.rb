# frozen_string_literal: true

module Orvant
  module Checks
    module Page
      # Finds forms without the hidden field that is to carry a visit's attribution, or with one that stays empty.
      class NoField < Check
        describes "page/no-field", weight: "breaks",
          why: "An enquiry that does not carry where its visitor came from can never be credited to a campaign, whatever the tags say.",
          fails: {"hidden" => {}}, passes: {"hidden" => {"lead_source" => "island-letter"}}

        def findings = subject.expected_fields.filter_map { |expected| report(expected, values(expected["field"])) }

        private

        def values(field) = subject.facts["forms"].to_a.filter_map { |form| form["hidden"].to_h[field] }

        def report(expected, values)
          field = expected["field"]
          wanted = subject.convention.value_in(subject.address, expected["role"])
          return build(field, expected, "No form on this page has the hidden field #{field}, so enquiries arrive without their #{expected["role"]}.", values) if values.empty?
          return if wanted.nil? || values.include?(wanted)

          build(field, expected, "The hidden field #{field} holds “#{values.first[0, 80]}” where the address says “#{wanted[0, 80]}”: enquiries arrive with the wrong #{expected["role"]}, or none.", values)
        end

        def build(field, expected, message, values)
          finding(message, place: {"field" => field, "page" => subject.visit.page}, evidence: subject.lines + values.map { |value| "#{field}=#{value}" },
            root: "page/no-field #{field} #{subject.visit.path}", remedy: Remedy.new(action: "Let the form carry #{field}, filled with the visit's #{expected["role"]}.", at: "page", place: subject.visit.path))
        end
      end
    end
  end
end
