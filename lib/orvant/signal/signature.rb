# frozen_string_literal: true

module Orvant
  class Signal
    # How one tag is recognised in the markup and on the wire, and how its requests are read.
    class Signature
      # A base code in the text of a script: so much of an account is taken for what stands at the star.
      ACCOUNT = "[^'\"`\\s,)]{1,100}"
      # Fields that are facts of the signal itself.
      OWN = %w[event page account].freeze

      attr_reader :tag, :name, :purpose, :functions
      # @return [Array<String>] names of the parameters that hand its visitor on to the next host
      attr_reader :handover

      # @param source [String, Hash] the document (docs/schemas/signature.schema.json)
      # @return [Signature]
      # @raise [Error::UnusableDocument]
      def self.read(source) = new(Document.read(source, schema: :signature))

      # @param document [Hash] valid by the schema
      def initialize(document)
        @tag, @name, @purpose = document.values_at("tag", "name", "purpose")
        @markup, @wire, @events = document.values_at("markup", "wire", "events")
        @fields = document["fields"].transform_values { |said| Field.new(said) }
        @functions = document.fetch("functions", [])
        @handover = document.fetch("handover", [])
        @list = document["list"]
        @scripts = document.fetch("scripts", [])
      end

      # @return [Array<String>] the roles of a visit that its signals name
      def roles = @fields.keys & %w[source medium campaign content term]

      # @param field [String]
      # @return [Boolean] whether its signals can say it
      def says?(field) = @fields.key?(field)

      # @param markup [Page::Markup]
      # @param base [Address] the page it stands on
      # @return [Array<Installation>] each place at which the tag stands, in the order of the page
      def installations(markup, base)
        markup.scripts.flat_map { |script| of_source(script, base) + of_text(script) }
      end

      # @param address [Address] of a request
      # @return [Boolean] whether the request is a signal of this tag, and not one of its scripts
      def on_wire?(address) = at?(@wire, address) && @scripts.none? { |path| path?(path, address.plain_path) }

      # @param address [Address] of the request
      # @param body [String, nil] its body
      # @param type [String, nil] the body's Content-Type
      # @param facts [Hash] page, step and at of the signals
      # @return [Array<Signal>] one, or as many as the request holds; of the kind `unreadable` where its body
      #   cannot be read
      def signals(address, body: nil, type: nil, **facts)
        payload = Payload.new(address, body: body, type: type, list: @list)
        payload.records.map { |record| signal(record, address, payload, facts) }
      end

      private

      def signal(record, address, payload, facts)
        values = @fields.transform_values { |field| field.in(record, address) }.compact
        event = values["event"].to_s
        Signal.new(tag: tag,
          account: values["account"],
          event: event,
          kind: (event.empty? && !payload.readable?) ? UNREADABLE : kind(event),
          values: values.except(*OWN),
          request: address.raw, **facts, page: values["page"] || facts[:page])
      end

      def of_source(script, base)
        return [] unless script.src

        address = Address::Reference.resolve(script.src, base)
        @markup.select { |place| place["host"] && at?([place], address) }.first(1).map do |place|
          Installation.new(
            tag: tag,
            account: place["account"] && address.pairs.find { |pair| pair.name == place["account"] }&.value,
            head: script.head,
            position: script.position,
            how: "script"
          )
        end
      rescue Error::UnusableAddress
        []
      end

      def of_text(script)
        @markup.filter_map do |place|
          found = place["inline"] && script.text.match(inline(place["inline"])) or next
          Installation.new(
            tag: tag,
            account: found[1],
            head: script.head,
            position: script.position,
            how: "inline"
          )
        end
      end

      # Text as it stands, white space apart; a star is an account.
      def inline(text)
        @inline ||= {}
        @inline[text] ||= Regexp.new(text.strip.split(/(\*|\s+)/).reject(&:empty?).map { |part|
          if part == "*"
            "(#{ACCOUNT})"
          else
            part.match?(/\A\s/) ? "\\s{0,20}" : Regexp.escape(part)
          end
        }.join)
      end

      def at?(places, address)
        places.any? do |place|
          place["host"] &&
            Address::HostName.normal(place["host"]) == address.host &&
            path?(place["path"], address.plain_path)
        end
      end

      def path?(wanted, path)
        return true unless wanted

        wanted.end_with?("*") ? path.start_with?(wanted.chomp("*")) : path == wanted
      end

      def kind(event)
        return "page_view" if @events["page_view"].include?(event)

        @events["conversion"].include?(event) ? "conversion" : "other"
      end
    end
  end
end
