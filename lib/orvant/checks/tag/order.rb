# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # Finds calls of a tag's functions that run before its base code stands.
      class Order < TagCheck
        describes "tag/order", weight: "breaks",
          why: "A call above the base code fails: its signal never leaves, and often nothing of the script behind it runs.",
          fails: {
            "markup" => "<head><script>gw('lead')</script>#{Sample::BASE}</head>",
            "signals" => ["view"]
          }, passes: {
            "markup" => "<head>#{Sample::BASE}<script>gw('lead')</script></head>",
            "signals" => ["view"]
          }
        looks_at :goal_pages

        def findings
          subject.visit.calls.to_h.map do |tag, call|
            error = failing(call)
            report(tag,
              "#{name(tag)} is called above its base code on this page, as “#{call}”#{", and the page's script failed: #{error["message"]}" if error}.",
              action: "Put the base code of #{name(tag)} above this call.",
              evidence: [call, *([error["message"]] if error), *subject.lines])
          end
        end

        private

        def failing(call)
          subject.visit.errors.to_a.find do |error|
            error["message"].to_s.include?("#{call[/\A[\w$.]+/]} is not defined")
          end
        end
      end
    end
  end
end
