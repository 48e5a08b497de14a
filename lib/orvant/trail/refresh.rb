# frozen_string_literal: true

module Orvant
  class Trail
    # Reads what a `Refresh` header or a meta refresh says (HTML Living Standard, 4.2.4.3, shared declarative
    # refresh steps).
    module Refresh
      # seconds: the delay · target: as written, "" for the page itself
      Order = Struct.new(:seconds, :target, keyword_init: true)
      # What counts as blank in a page (Infra, 4.6), and in a header (RFC 9110, 5.6.3).
      IN_PAGE = /[ \t\n\f\r]/
      IN_HEADER = /[ \t]/

      class << self
        # @param value [String, nil] a `Refresh` header's, of which browsers take each byte for a character
        # @return [Order, nil] nil where browsers ignore it
        def of_header(value)
          text = value.to_s
          text = text.dup.force_encoding(Encoding::ISO_8859_1).encode(Encoding::UTF_8) unless text.ascii_only?
          read(text, IN_HEADER)
        end

        # @param text [String, nil] the `content` of a meta refresh
        # @param blank [Regexp] one of IN_PAGE, IN_HEADER
        # @return [Order, nil] nil where browsers ignore it
        def read(text, blank = IN_PAGE)
          return if text.to_s.empty?

          match = /\A#{blank}*(\d+|(?=\.))[\d.]*(.*)\z/m.match(text) or return
          rest = match[2]
          return unless rest.match?(/\A(#{blank}|;|,|\z)/)

          target = target(rest.sub(/\A#{blank}*[;,]?#{blank}*/, ""), blank)
          Order.new(seconds: match[1].to_i, target: target)
        end

        private

        # Browsers end a quoted target at the last such quote, where there is one.
        def target(text, blank)
          text = text.sub(/\Aurl#{blank}*=#{blank}*/i, "")
          quote = text[/\A["']/]
          text = text[1..].then { |rest| rest[0...(rest.rindex(quote) || rest.length)] } if quote
          text.strip
        end
      end
    end
  end
end
