# frozen_string_literal: true

require "json"

module Orvant
  class Signal
    # How one tag is recognised in the markup and on the wire, and how its requests are read.
    class Signature
      attr_reader :tag, :name, :purpose

      # @param source [String, Hash] the document (docs/schemas/signature.schema.json)
      # @return [Signature]
      # @raise [Error::UnusableDocument]
      def self.read(source) = new(Document.read(source, schema: :signature))

      # @param document [Hash] valid by the schema
      def initialize(document)
        @tag, @name, @purpose = document.values_at("tag", "name", "purpose")
        @markup, @wire, @fields, @events = document.values_at("markup", "wire", "fields", "events")
      end

      # @param sources [Array<String>] script sources as written
      # @param base [Address] the page they stand on
      # @return [Boolean]
      def in_markup?(sources, base)
        sources.any? { |source| at?(@markup, Address::Reference.resolve(source, base)) }
      rescue Error::UnusableAddress
        false
      end

      # @param address [Address] of a request
      # @return [Boolean] whether the request is a signal of this tag
      def on_wire?(address) = at?(@wire, address)

      # @param address [Address] of the request
      # @param body [String, nil] its body
      # @param facts [Hash] page, step and at of the Signal
      # @return [Signal]
      def decode(address, body: nil, **facts)
        sent = address.pairs.to_h { |pair| [pair.name, pair.value] }.merge(body_values(body))
        values = @fields.transform_values { |name| sent[name] }.compact.transform_values(&:to_s)
        event = values.delete("event").to_s
        page = values.delete("page") || facts[:page]
        Signal.new(tag: tag, account: values.delete("account"), event: event, kind: kind(event), values: values,
          request: address.raw, **facts, page: page)
      end

      private

      def at?(places, address)
        places.any? { |place| Address::HostName.normal(place["host"]) == address.host && path?(place["path"], address.plain_path) }
      end

      def path?(wanted, path)
        return true unless wanted

        wanted.end_with?("*") ? path.start_with?(wanted.chomp("*")) : path == wanted
      end

      def kind(event)
        return "page_view" if @events["page_view"].include?(event)

        @events["conversion"].include?(event) ? "conversion" : "other"
      end

      def body_values(body)
        text = body.to_s
        return {} if text.empty? || text.bytesize > 65_536

        data = JSON.parse(text)
        data.is_a?(Hash) ? data : {}
      rescue JSON::ParserError
        Address::Pair.split(text).to_h { |pair| [pair.name, pair.value] }
      end
    end
  end
end
