# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # Finds pages where an expected tag stands in the markup but sends no page view.
      class Silent < TagCheck
        describes "tag/silent", weight: "breaks",
          why: "A tag that is there but sends nothing looks right to whoever reads the page's source, and records nobody.",
          fails: {"markup" => ["gullwatch"], "signals" => []}, passes: {"markup" => ["gullwatch"], "signals" => ["view"]}
        means :absence
        asks :consent, :expected_tags

        def findings
          quiet = subject.expected.map(&:tag).uniq.select do |tag|
            subject.in_markup?(tag) &&
              subject.signals(tag).none?(&:page_view?) &&
              !subject.unreadable?(tag) &&
              !subject.waits?(tag) &&
              !subject.viewed_before?(tag)
          end
          quiet.map do |tag|
            report(
              tag,
              "#{name(tag)} stands in this page's markup but sent no page view while it was watched, so visits that land here are not recorded.#{cause(tag)}",
              action: "Find out what keeps #{name(tag)} from sending its page view here.",
              evidence: subject.lines + errors
            )
          end
        end

        private

        def errors = subject.visit.errors.to_a.first(5).map { |error| "script error: #{error["message"]}" }

        # What can be seen of why.
        def cause(tag)
          blocked = subject.visit.errors.to_a.find { |error| error["policy"] }
          return " The page's own policy blocks it: #{blocked["message"]}" if blocked
          if subject.visit.errors.to_a.any?
            return " A script of the page failed: #{subject.visit.errors.first["message"]}"
          end

          " It may wait for consent." if subject.watching.consents[tag] && subject.visit.state.nil?
        end
      end
    end
  end
end
