# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # The tokens in one value: which of them will still be filled when an ad is clicked, and which never
      # will.
      class Tokens
        # One token. text: as it stands · dialect, token: nil where none is known to offer it · encoded:
        # whether it stands percent-encoded.
        Found = Struct.new(:text, :dialect, :token, :encoded, keyword_init: true) do
          def offered? = !token.nil? && (!encoded || dialect.fills_encoded?)
        end
        # Signs for private use stand for tokens while the text around them is judged.
        HIDDEN = "\u{E000}".."\u{F8FF}"
        HIDDEN_SIGN = /[\u{E000}-\u{F8FF}]/
        # Without one of these signs a text holds no token.
        HINT = /[{}\[\]<>%$*|~^@!(]|\#\#/

        # @param pair [Address::Pair] that carries no role
        # @param link [LinkSubject]
        # @return [Found, nil] what stands in it and is never filled
        def self.loose(pair, link)
          return unless pair.raw_value.match?(HINT)

          plain = Address::Pair.decode(Address::Pair.decode(pair.raw_value))
          network = link.whereabouts.network
          tokens = new(pair, plain, link.convention, network: network, ad: link.kind == "ad")
          tokens.unfilled || tokens.unknown
        end

        # @param pair [Address::Pair]
        # @param plain [String] its value, decoded as often as it was encoded
        # @param convention [Convention]
        # @param network [String, nil] whose ad it is
        # @param ad [Boolean] whether something will still fill tokens
        # @param role [Convention::Role, nil] nil for a parameter that carries none
        def initialize(pair, plain, convention, network:, ad:, role: nil)
          @pair = pair
          @plain = plain
          @convention = convention
          @network = network
          @ad = ad
          @role = role
        end

        # @return [Boolean] whether nothing but a click will show the value
        def templated? = @ad && found.any?

        # @return [Found, nil] a token that nothing will fill any more: of any dialect where the link is no ad
        def unfilled = (@ad ? nil : found.first || strange)

        # @return [Found, nil] on an ad, one that the network does not offer
        def unknown = (@ad ? found.find { |one| !one.offered? } || strange : nil)

        # @return [Found, nil] on an ad, a token in a role that may hold none: it is judged as the text it is
        def misplaced = ((@ad && @role) ? found.find { |one| !@role.token?(one.token&.name.to_s) } : nil)

        # @param found [Found]
        # @return [String, nil] the token of the link's network that was meant
        def nearest(found)
          dialect = own || found.dialect or return
          inner =
            if found.dialect
              found.dialect.inner(found.text)
            else
              found.text[/[\p{L}\d_][\p{L}\d_. -]*/].to_s
            end
          name = dialect.token(inner)&.name || Convention::Nearest.new(dialect.tokens.map(&:name)).of(inner)
          name && dialect.write(name)
        end

        # @param text [String]
        # @return [String] each token behind one sign, which nothing touches
        def hide(text)
          found.each_with_index.reduce(text) { |hidden, (one, index)| hidden.sub(one.text) { sign(index) } }
        end

        # @param text [String] with hidden tokens
        # @return [String] as a person reads it
        def show(text) = text.gsub(HIDDEN_SIGN) { |sign| found[sign.ord - 0xE000]&.text.to_s }

        # @param text [String] with hidden tokens
        # @return [String] with samples in their places
        def sampled(text) = text.gsub(HIDDEN_SIGN) { |sign| found[sign.ord - 0xE000]&.token&.sample.to_s }

        # @param text [String] with hidden tokens
        # @return [String] as it is to be written: tokens as they are, the rest encoded
        def written(text)
          text.split(/(#{HIDDEN_SIGN})/o)
            .map { |piece| piece.match?(HIDDEN_SIGN) ? show(piece) : Address::Pair.encode(piece) }.join
        end

        # @return [Array<Found>] tokens in the delimiters of known dialects, in their order
        def found
          @found ||=
            if @pair.raw_value.match?(Reading::WORDS)
              []
            else
              @convention.dialects.flat_map { |dialect|
                @plain.scan(dialect.anywhere)
                  .map { |text| read(text, dialect) }
              }.uniq(&:text)
                .sort_by { |one| @plain.index(one.text) }
            end
        end

        private

        def sign(index) = [0xE000 + index].pack("U")

        def own = @own ||= @network && @convention.dialect(@network)

        # What looks like a placeholder beside the known ones; a percent sign may have been read as an escape.
        def strange
          rest = found.reduce(@plain) { |text, one| text.sub(one.text, "") }
          text =
            if @role
              Convention::Placeholder.in(rest) || Convention::Placeholder.in(percent(@pair.raw_value))
            else
              Convention::Placeholder.single_word(rest)
            end
          text && Found.new(text: text)
        end

        def percent(raw)
          if raw.match?(/%\p{L}[^&]*%(?!\h\h)/)
            raw[/%{1,2}[\p{L}_][\p{L}\d_. -]{1,60}%{1,2}(?!\h\h)/].to_s
          else
            ""
          end
        end

        def read(text, dialect)
          token = dialect.token(dialect.inner(text))
          token = nil if own && own != dialect
          Found.new(
            text: text,
            dialect: dialect,
            token: token,
            encoded: !@pair.raw_value.include?(dialect.open)
          )
        end
      end
    end
  end
end
