# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # Finds page views that say another source, medium or campaign than the page's address.
      class Values < TagCheck
        describes "tag/values", weight: "skews",
          why: "A tag that rewrites what the link says credits the visit to another campaign than the one that brought it.",
          fails: {
            "markup" => ["gullwatch"],
            "address" => "http://www.skerryline.example/?utm_source=island-letter",
            "signals" => [["view", {"values" => {"source" => "Island"}}]]
          },
          passes: {
            "markup" => ["gullwatch"],
            "address" => "http://www.skerryline.example/?utm_source=island-letter",
            "signals" => [["view", {"values" => {"source" => "island-letter"}}]]
          }

        def findings
          subject.tags.filter_map do |tag|
            view = subject.signals(tag).find(&:page_view?) or next
            wrong = differing(tag, view)
            next if wrong.empty?

            report(
              tag,
              "#{name(tag)} does not say what the address of this page says: #{wrong.map { |role| said(role, view) }.join(", ")}.",
              action: "Let #{name(tag)} read #{wrong.join(", ")} from the address as they stand there.",
              evidence: subject.lines([view])
            )
          end
        end

        private

        # Only what the tag can say, and what its address brings.
        def differing(tag, view)
          (subject.roles.fetch(tag, []) & subject.values.keys).reject do |role|
            subject.values[role].to_s.empty? || view.values[role] == subject.values[role]
          end
        end

        def said(role, view)
          "#{role} “#{subject.values[role]}” became #{view.values[role].to_s.empty? ? "nothing" : "“#{view.values[role]}”"}"
        end
      end
    end
  end
end
