# frozen_string_literal: true

module Orvant
  class Convention
    # The tokens of one network, as data: their delimiters, names and samples.
    class Dialect
      # Anything wrapped in mirrored signs is a token of some network, whether its dialect is known or not.
      MIRROR = {"{" => "}", "[" => "]", "<" => ">", "(" => ")"}.freeze
      UNKNOWN = /([{\[<(%$\#*|~^_]{1,3})([A-Za-z][\w .:-]{0,60}?)([}\])>%$\#*|~^_]{1,3})/

      attr_reader :network, :tokens

      # @param text [String] a decoded value
      # @return [String, nil] the first stretch that looks like a token of no known dialect
      def self.unknown_token(text)
        text.to_enum(:scan, UNKNOWN).map { Regexp.last_match }.find { |match| mirrored?(match) }&.to_s
      end

      # @param match [MatchData] opening, name and closing
      # @return [Boolean] whether the closing mirrors the opening; single signs of the kind that names hold anyway do not count
      def self.mirrored?(match)
        opening, closing = match[1], match[3]
        return false if opening.length == 1 && !"{[<%$".include?(opening)

        opening.chars.reverse.map { |sign| MIRROR.fetch(sign, sign) }.join == closing
      end
      private_class_method :mirrored?

      # @param document [Hash] one entry of the convention's dialects
      def initialize(document)
        @network = document["network"]
        @tokens = document.fetch("tokens", [])
        @pattern = /#{Regexp.escape(document["open"])}[^\s&=]{1,100}?#{Regexp.escape(document["close"])}/
      end

      # @param text [String] a decoded value
      # @return [String, nil] the first token of this network in it
      def token_in(text) = text[@pattern]
    end
  end
end
