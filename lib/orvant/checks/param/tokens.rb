# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # The tokens in one value: which of them will still be filled when an ad is clicked, and which never will.
      class Tokens
        # One token. text: as it stands · dialect, token: nil where none is known to offer it · encoded: whether it stands percent-encoded.
        Found = Struct.new(:text, :dialect, :token, :encoded, keyword_init: true) do
          def offered? = !token.nil? && (!encoded || dialect.fills_encoded?)
        end

        # @param reading [Reading]
        # @param kind [String, nil] of link
        def initialize(reading, kind)
          @reading = reading
          @ad = kind == "ad"
        end

        # @return [Boolean] whether nothing but a click will show the value
        def templated? = @ad && permitted.any?

        # @return [Found, nil] a token that nothing will fill any more: of any dialect where the link is no ad, of none that is known on an ad
        def unfilled
          return if @ad && found.any?

          found.first || Convention::Dialect.unknown_token(@reading.plain)&.then { |text| Found.new(text: text) }
        end

        # @return [Found, nil] on an ad, one that the network does not offer
        def unknown = (found.find { |one| !one.offered? } if @ad && !literal?)

        # @return [Found, nil] on an ad, a token in a role that may hold none: it is judged as the text it is
        def misplaced = (found.find { |one| !@reading.role.token?(one.token&.name.to_s) } if @ad)

        # @param found [Found]
        # @return [String, nil] the token of the link's network that was meant
        def nearest(found)
          dialect = own || found.dialect
          return if dialect.nil?

          inner = found.text.delete_prefix(found.dialect.open).delete_suffix(found.dialect.close)
          name = dialect.token(inner)&.name || Convention::Nearest.new(dialect.tokens.map(&:name)).of(inner)
          name && "#{dialect.open}#{name}#{dialect.close}"
        end

        # @param text [String]
        # @return [String] with samples in the places of tokens
        def sampled(text)
          found.reduce(text) { |filled, one| filled.sub(@reading.role.fold(one.text)) { one.token&.sample.to_s } }
        end

        # @return [Array<Found>] tokens in the delimiters of known dialects
        def found
          @found ||= @reading.pair.raw_value.match?(Reading::WORDS) ? [] : @reading.convention.dialects.flat_map { |dialect| @reading.value.scan(dialect.anywhere).map { |text| read(text, dialect) } }
        end

        private

        def own = @own ||= @reading.network && @reading.convention.dialect(@reading.network)

        def literal? = !misplaced.nil?

        def permitted = literal? ? [] : found

        def read(text, dialect)
          token = dialect.token(text.delete_prefix(dialect.open).delete_suffix(dialect.close))
          token = nil if own && own != dialect
          Found.new(text: text, dialect: dialect, token: token, encoded: !@reading.pair.raw_value.include?(dialect.open))
        end
      end
    end
  end
end
