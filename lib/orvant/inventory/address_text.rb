# frozen_string_literal: true

require "cgi"

module Orvant
  module Inventory
    # Finds every address in running text.
    class AddressText
      # An address, and the place where it begins.
      Found = Struct.new(:text, :line, keyword_init: true)
      PAIRS = {")" => "(", "]" => "[", "}" => "{", ">" => "<"}.freeze
      # Signs of the sentence around, at the end of an address.
      AFTER = /[.,;:!?'’”»*_—–]+\z/
      # How chats and documents write a link with its label, and JSON a slash.
      LABELLED = /<(https?:[^\s<>|]+)\|[^<>\n]*>/i
      TAG = /<[a-z][^<>]*>/i

      # @param dialects [Array<Convention::Dialect>] their tokens may stand in an address, whatever signs they
      #   are written with
      # @param hosts [Hosts] own and relay hosts, which are recognised without a scheme too
      def initialize(dialects: [], hosts: Hosts.new([]))
        token = Regexp.union(*dialects.map(&:anywhere))
        # A list may join addresses without a space; where words are not spaced, other signs end them.
        sign = %r{(?![,;]https?://)[^[:space:]<>"`「」『』【】（）。、]}i
        inner = dialects.any? ? /(?:#{token}|#{sign})/ : sign
        bare = hosts.names.map { |name| Regexp.escape(name).sub("\\*", "[a-z0-9-]+") }
          .sort_by { |name| -name.length }
        @pattern =
          if bare.any?
            %r{https?://#{inner}+|(?<![\w@./-])(?:#{bare.join("|")})(?![\w.-]*\w)(?:[/?#]#{inner}*)?}i
          else
            %r{https?://#{inner}+}i
          end
      end

      # @param text [String]
      # @return [Array<Found>] in order; without the punctuation of the sentence around
      def in(text)
        plain(text).each_line.with_index(1).flat_map do |line, number|
          line.scan(@pattern).map { |found| Found.new(text: with_scheme(trimmed(found)), line: number) }
        end
      end

      private

      def plain(text)
        text = text.gsub("\\/", "/") if text.include?(":\\/\\/")
        text.gsub(LABELLED, '<\1>').gsub(TAG) { |tag| tag.include?("&") ? CGI.unescapeHTML(tag) : tag }
      end

      def with_scheme(text) = text.match?(%r{\Ahttps?://}i) ? text : "http://#{text}"

      def trimmed(text)
        loop do
          shorter = text.sub(AFTER, "")
          opening = PAIRS[shorter[-1]]
          if opening && shorter.count(opening) < shorter.count(shorter[-1]) && !token_end?(shorter)
            shorter = shorter.chop
          end
          return shorter if shorter == text

          text = shorter
        end
      end

      # `<~issue~>` ends with a bracket of its own.
      def token_end?(text) = text.match?(/[~*^%#|]\S\z/)
    end
  end
end
