# frozen_string_literal: true

module Orvant
  class Convention
    # The values permitted for a role, each with aliases, meaning and owner.
    class Vocabulary
      Entry = Struct.new(:value, :aliases, :meaning, :owner, keyword_init: true)

      attr_reader :entries

      # @param text [String]
      # @return [String] the form in which two spellings are compared (full case folding, NFC)
      def self.key(text) = text.unicode_normalize(:nfc).downcase(:fold)

      # @param document [Hash] `closed` and `values`
      def initialize(document)
        @closed = document.fetch("closed", false)
        @entries = document["values"].map do |value|
          Entry.new(value: value["value"],
            aliases: value.fetch("aliases", []),
            meaning: value["meaning"].to_s,
            owner: value["owner"].to_s)
        end
        @by_value = entries.to_h { |entry| [entry.value.unicode_normalize(:nfc), entry] }
        @by_alias = entries.flat_map { |entry|
          entry.aliases.map { |name| [self.class.key(name), entry] }
        }.to_h
        @by_key = entries.to_h { |entry| [self.class.key(entry.value), entry] }
      end

      # @return [Boolean] whether no other value is permitted
      def closed? = @closed

      # @return [Array<String>]
      def values = entries.map(&:value)

      # @param value [String]
      # @return [Boolean]
      def include?(value)
        @by_value.key?(value) || (!value.ascii_only? && @by_value.key?(value.unicode_normalize(:nfc)))
      end

      # @param value [String]
      # @return [String, nil] the permitted value of which this is a known other spelling
      def canonical(value) = @by_alias[self.class.key(value)]&.value

      # @param value [String]
      # @return [String, nil] the permitted value that this is, in any letter case, or an alias of
      def known(value) = (@by_key[self.class.key(value)]&.value || canonical(value) unless entries.empty?)

      # @param value [String]
      # @return [String, nil] the one permitted value of which this is a slip of the pen
      def near(value) = ((@nearest ||= Nearest.new(values)).of(value) unless entries.empty?)
    end
  end
end
