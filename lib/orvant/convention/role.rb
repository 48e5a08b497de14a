# frozen_string_literal: true

module Orvant
  class Convention
    # The part a parameter plays, and the rules for its value.
    class Role
      attr_reader :name,
        :carriers,
        :required,
        :letter_case,
        :separator,
        :meaning,
        :owner,
        :vocabulary,
        :longest,
        :characters,
        :segments,
        :tokens

      # @param document [Hash] one entry of the convention's roles
      # @param roles [Hash{String => Hash}] the documents of all roles: a segment may take the values of
      #   another role
      # @raise [Error::UnusableDocument] where its segments or expressions cannot be used
      def initialize(document, roles = {})
        @document = document
        @name = document["role"]
        @carriers = document["carriers"]
        @required = document.fetch("required", "never")
        @letter_case = document.fetch("case", "any")
        @separator = document.fetch("separator", "-")
        @free_text = document.fetch("free_text", false)
        @meaning = document["meaning"].to_s
        @owner = document["owner"].to_s
        @longest = document["longest"]
        @tokens = document.fetch("tokens", "any")
        @characters = document["characters"] && Characters.new(document["characters"])
        @vocabulary = Vocabulary.new(document.fetch("vocabulary", {"values" => []}))
        @segments = document["segments"] &&
          Segments.new(document["segments"], separator: @separator, roles: roles)
      end

      # @return [String] the parameter name to use where a link has none
      def carrier = carriers.first

      # @param kind [String, nil] the kind of link
      # @param channel [String] where its values lead
      # @param paid [Boolean] whether the link is paid for
      # @param network [String, nil] whose ad it is
      # @return [Boolean]
      def required?(kind: nil, channel: "", paid: false, network: nil)
        case required
        when "always" then true
        when "paid" then paid
        when Hash
          required.fetch("kinds", []).include?(kind) ||
            required.fetch("channels", []).include?(channel) ||
            required.fetch("networks", []).any? { |name| name.casecmp?(network.to_s) }
        else false
        end
      end

      # @return [Boolean] whether white space belongs to the value
      def free_text? = @free_text

      # @return [Boolean] whether values are structured names
      def structured? = !segments.nil?

      # @return [Array<String>] names of its segments, none where names are not structured
      def segment_names = segments ? segments.list.map(&:name) : []

      # @param value [String]
      # @param name [String] of a segment
      # @return [String, nil] what stands there; nil where the value does not fit that far
      def segment_in(value, name) = segments&.match(value)&.stretches&.fetch(name, nil)

      # @param token [String] its name
      # @return [Boolean] whether the role may hold it
      def token?(token) = tokens == "any" || (tokens.is_a?(Array) && tokens.include?(token))

      # @param value [String]
      # @return [String] in the letter case of the rule (simple mapping; JUDGEMENTS fold for comparing only)
      def fold(value)
        case letter_case
        when "lower" then value.downcase
        when "upper" then value.upcase
        else value
        end
      end

      # @param value [String]
      # @return [Boolean] whether the value is in order as far as vocabulary and segments go
      def acceptable?(value)
        return true if vocabulary.include?(value)
        return false if vocabulary.closed?

        segments.nil? || segments.match(value).complete?
      end

      # @param changes [Hash] what a more specific rule says instead
      # @return [Role]
      def with(changes, roles) = self.class.new(@document.merge(changes), roles)
    end
  end
end
