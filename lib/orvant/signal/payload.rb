# frozen_string_literal: true

require "json"
require "stringio"
require "zlib"

module Orvant
  class Signal
    # What a request holds: one record or several, each of names and values, in the query and in a body of any
    # of the usual kinds (form text, a form text a line, JSON, a JSON a line, lists within JSON, multipart;
    # packed or not).
    class Payload
      # Bytes of a body, unpacked, and records of one request: what is larger is no signal that anybody could
      # check.
      MOST = 1_048_576
      MOST_RECORDS = 500
      DEEPEST = 20
      GZIP = "\x1F\x8B".b
      # RFC 1950, at the usual levels.
      DEFLATED = ["\x78\x01".b, "\x78\x9C".b, "\x78\xDA".b].freeze

      # @return [Array<Hash{String => Object}>] values by name; what stands in the query holds for all, unless
      #   a record says otherwise
      attr_reader :records

      # @param address [Address] of the request
      # @param body [String, nil] bytes
      # @param type [String] its Content-Type
      # @param list [String, nil] the dotted path of a list within JSON whose members are signals of their own
      def initialize(address, body: nil, type: "", list: nil)
        @query = address.pairs.to_h { |pair| [pair.name, pair.value] }
        @type = type.to_s
        @list = list
        @readable = true
        found = body.to_s.empty? ? [] : read(body.to_s.b)
        @records = (found.empty? ? [{}] : found).first(MOST_RECORDS).map { |record| @query.merge(record) }
      end

      # @return [Boolean] whether all of it could be read
      def readable? = @readable

      # @param record [Hash{String => Object}]
      # @param name [String] as it stands, or a dotted path into what it holds
      # @return [String, nil]
      def self.value(record, name)
        found = record.key?(name) ? record[name] : within(record, name.split("."))
        case found
        when nil then nil
        when Array, Hash then JSON.generate(found)
        else found.to_s
        end
      end

      def self.within(found, steps)
        steps.reduce(found) do |within, step|
          case within
          when Hash then within[step]
          when Array then step.match?(/\A\d{1,4}\z/) ? within[step.to_i] : nil
          end
        end
      end
      private_class_method :within

      private

      def read(bytes)
        bytes = unpacked(bytes) or return unreadable
        return multipart(bytes) if @type.match?(%r{\Amultipart/}i)

        text = bytes.dup.force_encoding(Encoding::UTF_8)
        return unreadable unless text.valid_encoding? && !text.include?("\0")

        text.lstrip.start_with?("{", "[") ? json(text) : lines(text)
      end

      def unpacked(bytes)
        return if bytes.bytesize > MOST
        return bounded(Zlib::GzipReader.new(StringIO.new(bytes))) if bytes.start_with?(GZIP)
        return bytes unless bytes.start_with?(*DEFLATED)

        inflated(bytes)
      rescue Zlib::Error
        nil
      end

      # A small body may hold very much: no more is unpacked than may be kept.
      def inflated(bytes)
        text = +"".b
        catch(:enough) do
          Zlib::Inflate.new.inflate(bytes) { |piece| (text << piece).bytesize > MOST && throw(:enough) }
        end
        text if text.bytesize <= MOST
      end

      def bounded(reader) = reader.read(MOST + 1).to_s.then { |text| text if text.bytesize <= MOST }

      def unreadable
        @readable = false
        []
      end

      def json(text)
        records_of(JSON.parse(text, max_nesting: DEEPEST))
      rescue JSON::ParserError
        json_lines(text)
      end

      def json_lines(text)
        rows = text.lines.map(&:strip).reject(&:empty?)
        return unreadable if rows.size < 2

        rows.flat_map { |row| records_of(JSON.parse(row, max_nesting: DEEPEST)) }
      rescue JSON::ParserError
        unreadable
      end

      def records_of(document)
        return document.grep(Hash).flat_map { |one| records_of(one) } if document.is_a?(Array)
        return [] unless document.is_a?(Hash)

        members = @list && self.class.send(:within, document, @list.split("."))
        return [document] unless members.is_a?(Array)

        outer = document.except(@list.split(".").first)
        members.grep(Hash).map { |one| outer.merge(one) }
      end

      # A line of form text is a signal; what holds no name and value is not read.
      def lines(text)
        rows = text.split(/\r?\n/).reject(&:empty?)
        return unreadable unless rows.any? && rows.all? { |row| row.include?("=") }

        rows.map { |row| Address::Pair.split(row).to_h { |pair| [pair.name, pair.value] } }
      end

      def multipart(bytes)
        boundary = @type[/boundary="?([^";]{1,200})/i, 1] or return unreadable
        parts = bytes.split("--#{boundary}".b).filter_map { |part| part_of(part) }
        parts.empty? ? unreadable : [parts.to_h]
      end

      def part_of(part)
        head, value = part.split("\r\n\r\n".b, 2)
        name = head.to_s[/content-disposition:[^\r\n]*\bname="([^"]{1,200})"/in, 1]
        name &&
          value &&
          [name, value, value.delete_suffix("\r\n".b)].then { |found, _, text| [found, text].map { |one| one.dup.force_encoding(Encoding::UTF_8).scrub } }
      end
    end
  end
end
