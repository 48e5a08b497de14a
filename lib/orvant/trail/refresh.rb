# frozen_string_literal: true

module Orvant
  class Trail
    # Reads what a `Refresh` header or a meta refresh says (HTML Living Standard, 4.2.4.3, shared declarative
    # refresh steps).
    module Refresh
      # seconds: the delay · target: as written, "" for the page itself
      Order = Struct.new(:seconds, :target, keyword_init: true)

      class << self
        # @param text [String] the header's value, or `content`
        # @return [Order, nil] nil where browsers ignore it
        def read(text)
          match = /\A\s*(\d+|(?=\.))[\d.]*(.*)\z/m.match(text.to_s) or return
          rest = match[2]
          return unless rest.match?(/\A(\s|;|,|\z)/)

          Order.new(seconds: match[1].to_i, target: target(rest.sub(/\A\s*[;,]?\s*/, "")))
        end

        private

        # Browsers end a quoted target at the last such quote, where there is one.
        def target(text)
          text = text.sub(/\Aurl\s*=\s*/i, "")
          quote = text[/\A["']/]
          text = text[1..].then { |rest| rest[0...(rest.rindex(quote) || rest.length)] } if quote
          text.strip
        end
      end
    end
  end
end
