# frozen_string_literal: true

require "json"

module Orvant
  module Inventory
    # Reads a JSON list of objects as a table: the names become the header, nested objects become `name=value`
    # pairs.
    class JsonRows
      attr_reader :rows, :notes

      class << self
        # @param text [String]
        # @return [Boolean] whether it can only be JSON
        def like?(text) = text.match?(/\A\s*(\[\s*[{\]]|\{\s*")/)

        # @param text [String]
        # @return [JsonRows] with `rows`: pairs of a number and cells, the header first
        # @raise [Error::UnusableTable]
        def read(text) = new(text)
      end

      def initialize(text)
        objects = list(JSON.parse(text, max_nesting: Budget::DEPTH))
        header = names(objects)
        @notes = []
        @rows = [[1, header]] +
          objects.each.with_index(2).map { |object, line| [line, header.map { |name| cell(object[name]) }] }
      rescue JSON::ParserError => error
        raise Error::UnusableTable,
          "The file looks like JSON and is not valid: #{error.message.scrub[0, Cut::FAILURE]}"
      end

      private

      def list(document)
        found =
          if document.is_a?(Array)
            document
          else
            document.values.find { |value| value.is_a?(Array) && value.any? }
          end
        objects = found.to_a.grep(Hash)
        raise Error::UnusableTable, "The JSON holds no list of objects." if objects.empty?

        objects
      end

      def names(objects)
        objects.each_with_object({}) do |object, found|
          object.each_key { |name| found[name] = true }
          if found.size > Table::MAX_COLUMNS
            raise Error::UnusableTable,
              "The objects of the JSON have more than #{Table::MAX_COLUMNS} different names; that is no table."
          end
        end.keys
      end

      def cell(value)
        case value
        when Hash then value.map { |name, inner| "#{name}=#{inner}" }.join("; ")
        when Array then value.join("; ")
        when Float then Amount.written(value)
        else value.to_s
        end
      end
    end
  end
end
