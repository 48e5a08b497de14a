# frozen_string_literal: true

require "nokogiri"
require "zlib"

module Orvant
  module Inventory
    # Reads a sitemap or an index of sitemaps (the sitemap protocol's XML, or plain text), compressed or not.
    class Sitemap
      MAX_ADDRESSES = 50_000
      MAX_BYTES = 50 * 1024 * 1024
      TEXTS = [Nokogiri::XML::Reader::TYPE_TEXT, Nokogiri::XML::Reader::TYPE_CDATA].freeze

      # addresses: texts of pages · sitemaps: texts of further sitemaps
      attr_reader :addresses, :sitemaps

      # @param bytes [String]
      def initialize(bytes)
        text = unpacked(bytes.b)
        text.match?(/\A[\s\xEF\xBB\xBF]*</n) ? read_xml(text) : read_lines(text)
      end

      private

      # Element by element: a document of this size would take ten times its bytes.
      def read_xml(text)
        found = {"url" => [], "sitemap" => []}
        each_location(text) do |holder, location|
          found[holder] << location if found.key?(holder) && found[holder].size < MAX_ADDRESSES
        end
        @addresses, @sitemaps = found.values_at("url", "sitemap")
      end

      # @yieldparam holder [String] the element around the location
      # @yieldparam location [String]
      def each_location(text)
        above = []
        Nokogiri::XML::Reader(text) { |options| options.nonet.recover }.each do |node|
          above[node.depth] = node.local_name if node.node_type == Nokogiri::XML::Reader::TYPE_ELEMENT
          next unless TEXTS.include?(node.node_type) && above[node.depth - 1] == "loc"

          location = node.value.scrub.strip
          yield(above[node.depth - 2], location) unless location.empty?
        end
      rescue Nokogiri::XML::SyntaxError
        nil # What came before the damage stands.
      end

      def read_lines(text)
        @addresses = text.force_encoding(Encoding::UTF_8).scrub.lines.map(&:strip)
          .grep(%r{\Ahttps?://}i)
          .first(MAX_ADDRESSES)
        @sitemaps = []
      end

      def unpacked(bytes)
        return bytes unless bytes.start_with?("\x1F\x8B".b)

        Net::Body.read(
          StringIO.new(bytes).then { |io| Chunks.new(io) },
          coding: "gzip",
          limit: MAX_BYTES
        ).bytes
      end

      # Gives bytes piece by piece.
      Chunks = Struct.new(:io) do
        def read = io.read(16_384)
      end
    end
  end
end
