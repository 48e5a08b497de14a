# frozen_string_literal: true

module Orvant
  class Convention
    # The tokens of one network, as data (docs/schemas/dialect.schema.json): their delimiters, names, meaning
    # and samples; how a pattern writes the landing address; and the text that stands in it only under a
    # condition.
    class Dialect
      # One token. landing: `plain` or `encoded` where it stands for the landing address · condition: whether
      # it shows or hides text · role: the role that it is meant to fill on new links, or nil · tells: which
      # fact of its ad it stands for (one of TOLD), nil where only the network knows.
      Token = Struct.new(:name, :meaning, :sample, :landing, :condition, :role, :tells, keyword_init: true) do
        def initialize(**facts)
          super
          self.tells ||= ToldByToken.of(self)
        end
      end
      # What an ad's own row can tell.
      TOLD = ["account", "account id", "campaign", "campaign id", "group", "group id", "ad", "id",
        "keyword"].freeze

      attr_reader :network, :open, :close, :own, :tokens

      # @param source [String, Hash] the document
      # @return [Dialect]
      # @raise [Error::UnusableDocument]
      def self.read(source) = new(Document.read(source, schema: :dialect))

      # @param document [Hash] valid by the schema
      def initialize(document)
        @document = document
        @network = document["network"]
        @open = document["open"]
        @close = document["close"]
        @then = document["then"]
        @own = document["own"]
        @exact = document.fetch("exact_names", true)
        @encoded = document.fetch("encoded", false)
        @tokens = document.fetch("tokens", []).map do |token|
          Token.new(name: token["token"], **token.except("token").transform_keys(&:to_sym))
        end
        # Names of its own may hold blanks.
        @pattern = /#{Regexp.escape(@open)}(?:#{Regexp.union(@tokens.map(&:name).sort_by { |name| -name.length }).source}|[^\s&=]{1,100}?)#{Regexp.escape(@close)}/
      end

      # @return [Hash] what it was made of
      def to_document = @document

      # @return [Boolean] whether the network fills tokens that stand percent-encoded
      def fills_encoded? = @encoded

      # @param text [String] a decoded value
      # @return [String, nil] the first token of this network in it
      def token_in(text) = text[@pattern]

      # @return [Regexp] any token in running text
      def anywhere = @pattern

      # @param name [String]
      # @return [String] with its delimiters
      def write(name) = "#{open}#{name}#{close}"

      # @param text [String] a token with its delimiters
      # @return [String] what stands between them
      def inner(text) = text.delete_prefix(open).delete_suffix(close)

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
