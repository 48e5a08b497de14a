# frozen_string_literal: true

require "json"
require "json_schemer"

module Orvant
  # Reads the JSON documents that people write (conventions, signatures, rehearsals, host maps) and holds each
  # against its published schema (JSON Schema 2020-12, docs/schemas).
  module Document
    SCHEMAS = File.expand_path("../../docs/schemas", __dir__)

    class << self
      # @param source [String, Hash] JSON text, or what was parsed from it
      # @param schema [Symbol] the name of a file in docs/schemas, without `.schema.json`
      # @return [Hash] with string keys
      # @raise [Error::UnusableDocument] naming path and reason of each fault (five at most)
      def read(source, schema:)
        data = source.is_a?(String) ? parse(source, schema) : source
        faults = schemer(schema).validate(data).first(5)
        if faults.any?
          raise Error::UnusableDocument, faults.map { |fault| sentence(schema, fault, data) }.join("\n")
        end

        data
      end

      private

      def parse(text, schema)
        JSON.parse(text.dup.force_encoding(Encoding::UTF_8).delete_prefix("\uFEFF"), max_nesting: 40)
      rescue JSON::ParserError, ArgumentError => error
        raise Error::UnusableDocument, "The #{schema} is no valid JSON: #{error.message.scrub[0, Cut::FAILURE]}"
      end

      def sentence(schema, fault, data)
        path = fault["data_pointer"].empty? ? "its top level" : fault["data_pointer"]
        words = PlaceInWords.of(fault["data_pointer"], data)
        "The #{schema} does not fit its schema at #{path}#{", #{words}" if words}: #{fault["error"].scrub[0, Cut::FAILURE]}."
      end

      def schemer(name)
        @schemers ||= {}
        @schemers[name] ||= JSONSchemer.schema(Pathname.new(File.join(SCHEMAS, "#{name}.schema.json")))
      end
    end
  end
end
