# frozen_string_literal: true

module Orvant
  module Page
    # Judges the page on which a trail landed.
    module Landing
      NOT_FOUND = /
        \b(page|site|offer|address|404)\b.{0,40}\bnot\s+(be\s+)?found\b | \bnot\s+found\b | \berror\s+404\b | \A\W*404\W*\z |
        \bno\s+longer\s+(available|exists?)\b | \bdoes(\s+not|n.t)\s+exist\b
      /xi

      class << self
        # A page that says “not found” with status 200 is broken, whatever its status says.
        #
        # @param trail [Trail] with its body
        # @return [Trail] the same, or broken with the reason
        def judge(trail)
          return trail unless trail.landed?

          markup = Markup.new(trail.body)
          said = [markup.title, markup.heading].find { |text| text.match?(NOT_FOUND) }
          return trail unless said

          trail.dup.tap do |broken|
            broken.outcome = "broken"
            broken.reason = "The landing page answers #{trail.status} but says “#{said[0, 120]}”."
          end
        end
      end
    end
  end
end
