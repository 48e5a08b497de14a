# frozen_string_literal: true

module Orvant
  module Page
    # Which referrer a page wants its visitors to be sent with (W3C Referrer Policy; HTML Standard, 4.2.5.1).
    module ReferrerPolicy
      USUAL = "strict-origin-when-cross-origin"
      ALL = %w[no-referrer no-referrer-when-downgrade same-origin origin strict-origin origin-when-cross-origin strict-origin-when-cross-origin unsafe-url].freeze
      # What pages wrote before; browsers still take it in markup.
      FORMERLY = {
        "never" => "no-referrer",
        "none" => "no-referrer",
        "always" => "unsafe-url",
        "default" => USUAL,
        "origin-when-crossorigin" => "origin-when-cross-origin"
      }.freeze

      class << self
        # @param value [String, nil] a `Referrer-Policy` header's
        # @return [String, nil] the last policy of its list that browsers know
        def of_header(value)
          value&.downcase&.split(/[\s,]+/)&.reverse&.find { |one| ALL.include?(one) }
        end

        # @param contents [Array<String>] of the metas that are named so, in the page's order
        # @return [String, nil] the last of them that browsers know: each is one policy, blanks and all
        def of_metas(contents)
          said = contents.map(&:downcase).map { |one| FORMERLY.fetch(one, one) }
          said.reverse.find { |one| ALL.include?(one) }
        end
      end
    end
  end
end
