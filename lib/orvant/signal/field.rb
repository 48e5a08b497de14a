# frozen_string_literal: true

module Orvant
  class Signal
    # Where a tag puts a field: under a name, or the first of several that is there; in a segment of the path;
    # or always the same.
    class Field
      # @param said [String, Array<String>, Hash] as the signature has it
      def initialize(said)
        @constant, @segment = said.values_at("constant", "segment") if said.is_a?(Hash)
        @names = said.is_a?(Hash) ? [] : Array(said)
      end

      # @param record [Hash{String => Object}] of a Payload
      # @param address [Address] of the request
      # @return [String, nil]
      def in(record, address)
        return @constant if @constant
        if @segment
          return address.plain_path.split("/").reject(&:empty?)[@segment - 1]&.then { |text| Address::Pair.decode(text) }
        end

        @names.lazy.filter_map { |name| Payload.value(record, name) }.first
      end
    end
  end
end
