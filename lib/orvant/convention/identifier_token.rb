# frozen_string_literal: true

module Orvant
  class Convention
    # The token that fills a required identifier, as it is written on an ad: in the delimiters of the dialect
    # that offers it, whether it was entered with them or by its bare name.
    class IdentifierToken
      # @param text [String] as it was entered
      # @param dialects [Array<Dialect>] of the convention
      # @param network [String, nil] whose ads carry the identifier, where that is said
      # @param source [String, nil] of the links that carry it, which may be the network's name
      def initialize(text, dialects, network: nil, source: nil)
        @text = text
        whose = network || source
        own = dialects.select { |one| one.network.casecmp?(whose.to_s) }
        # Of a network that nobody has described nothing can be said, but what it writes between signs of its
        # own.
        strange = whose && own.empty? && Placeholder.in(text)
        @dialects = (own.any? || network || strange) ? own : dialects
      end

      # @return [String, nil] as it is written; nil where no network offers it
      def written
        return @text if @dialects.empty? || delimited?

        offers = @dialects.select { |one| one.token(@text.strip) }
        offers.first.write(offers.first.token(@text.strip).name) if offers.size == 1
      end

      # @return [String, nil] why it cannot be used; nil where it can
      def fault
        return if written

        offers = @dialects.select { |one| one.token(@text.strip) }
        return "“#{@text}” is a token of #{offers.map(&:network).join(" and of ")}: say of which network" if offers.any?

        "no network offers the token “#{@text}”; there are #{offered}"
      end

      private

      # Text may stand beside the token.
      def delimited?
        @dialects.any? do |dialect|
          found = dialect.token_in(@text)
          found && dialect.token(dialect.inner(found))
        end
      end

      MOST = 20
      private_constant :MOST

      def offered
        all = @dialects.flat_map { |dialect| dialect.tokens.map { |token| dialect.write(token.name) } }
        return "none" if all.empty?

        more = all.size - MOST
        "#{all.first(MOST).join(", ")}#{" and #{more} more" if more.positive?}"
      end
    end
  end
end
