# frozen_string_literal: true

module Orvant
  class Convention
    # The tokens of one network, as data (docs/schemas/dialect.schema.json): their delimiters, names, meaning and samples; how a pattern
    # writes the landing address; and the text that stands in it only under a condition.
    class Dialect
      # Anything wrapped in mirrored signs is a token of some network, whether its dialect is known or not.
      MIRROR = {"{" => "}", "[" => "]", "<" => ">", "(" => ")"}.freeze
      UNKNOWN = /([{\[<(%$\#*|~^_]{1,3})([A-Za-z][\w .:-]{0,60}?)([}\])>%$\#*|~^_]{1,3})/

      # One token. landing: `plain` or `encoded` where it stands for the landing address · condition: whether it shows or hides text ·
      # role: the role that it is meant to fill on new links, or nil.
      Token = Struct.new(:name, :meaning, :sample, :landing, :condition, :role, keyword_init: true)

      attr_reader :network, :open, :close, :own, :tokens

      # @param source [String, Hash] the document
      # @return [Dialect]
      # @raise [Error::UnusableDocument]
      def self.read(source) = new(Document.read(source, schema: :dialect))

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

      # @param document [Hash] valid by the schema
      def initialize(document)
        @network = document["network"]
        @open = document["open"]
        @close = document["close"]
        @then = document["then"]
        @own = document["own"]
        @exact = document.fetch("exact_names", true)
        @encoded = document.fetch("encoded", false)
        @tokens = document.fetch("tokens", []).map { |token| Token.new(name: token["token"], **token.except("token").transform_keys(&:to_sym)) }
        @pattern = /#{Regexp.escape(@open)}[^\s&=]{1,100}?#{Regexp.escape(@close)}/
      end

      # @return [Boolean] whether the network fills tokens that stand percent-encoded
      def fills_encoded? = @encoded

      # @param text [String] a decoded value
      # @return [String, nil] the first token of this network in it
      def token_in(text) = text[@pattern]

      # @return [Regexp] any token in running text
      def anywhere = @pattern

      # @param name [String] as it stands between the delimiters
      # @return [Token, nil] nil where the network does not offer it
      def token(name)
        tokens.find { |token| @exact ? token.name == name : token.name.casecmp?(name) }
      end

      # @param inner [String] what stands between the delimiters
      # @return [Array(Token, String), nil] the condition and the text that it shows
      def condition(inner)
        return unless @then && inner.include?(@then)

        name, text = inner.split(@then, 2)
        token = token(name)
        [token, text] if token&.condition
      end
    end
  end
end
