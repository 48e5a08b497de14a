# frozen_string_literal: true

module Orvant
  class Convention
    # The values permitted for a role, each with aliases, meaning and owner.
    class Vocabulary
      Entry = Struct.new(:value, :aliases, :meaning, :owner, keyword_init: true)

      attr_reader :entries

      # @param document [Hash] `closed` and `values`
      def initialize(document)
        @closed = document.fetch("closed", false)
        @entries = document["values"].map do |value|
          Entry.new(value: value["value"], aliases: value.fetch("aliases", []), meaning: value["meaning"].to_s,
            owner: value["owner"].to_s)
        end
        @by_value = entries.to_h { |entry| [entry.value, entry] }
        @by_alias = entries.flat_map { |entry| entry.aliases.map { |name| [name.downcase(:fold), entry] } }.to_h
      end

      # @return [Boolean] whether no other value is permitted
      def closed? = @closed

      # @param value [String]
      # @return [Boolean]
      def include?(value) = @by_value.key?(value)

      # @param value [String]
      # @return [String, nil] the permitted value of which this is a known other spelling
      def canonical(value) = @by_alias[value.downcase(:fold)]&.value
    end
  end
end
