# frozen_string_literal: true

require "nokogiri"
require "zlib"

module Orvant
  module Inventory
    # Reads a sitemap or an index of sitemaps (the sitemap protocol's XML, or plain text), compressed or not.
    class Sitemap
      MAX_ADDRESSES = 50_000
      MAX_BYTES = 50 * 1024 * 1024

      # addresses: texts of pages · sitemaps: texts of further sitemaps
      attr_reader :addresses, :sitemaps

      # @param bytes [String]
      def initialize(bytes)
        text = unpacked(bytes.b)
        text.match?(/\A[\s\xEF\xBB\xBF]*</n) ? read_xml(text) : read_lines(text)
      end

      private

      def read_xml(text)
        document = Nokogiri::XML(text) { |options| options.nonet.recover }
        document.remove_namespaces!
        @addresses = locations(document, "//url/loc")
        @sitemaps = locations(document, "//sitemap/loc")
      end

      def read_lines(text)
        @addresses = text.force_encoding(Encoding::UTF_8).scrub.lines.map(&:strip).grep(%r{\Ahttps?://}i).first(MAX_ADDRESSES)
        @sitemaps = []
      end

      def locations(document, path) = document.xpath(path).first(MAX_ADDRESSES).map { |node| node.text.scrub.strip }.reject(&:empty?)

      def unpacked(bytes)
        return bytes unless bytes.start_with?("\x1F\x8B".b)

        Net::Body.read(StringIO.new(bytes).then { |io| Chunks.new(io) }, coding: "gzip", limit: MAX_BYTES).bytes
      end

      # Gives bytes piece by piece.
      Chunks = Struct.new(:io) do
        def read = io.read(16_384)
      end
    end
  end
end
