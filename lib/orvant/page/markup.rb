# frozen_string_literal: true

require "nokogiri"

module Orvant
  module Page
    # What a page's markup says, read without running it.
    class Markup
      # @param body [String, nil] bytes or text of an HTML document
      def initialize(body)
        @document = Nokogiri::HTML5(body.to_s, max_tree_depth: 400, max_attributes: 400)
      rescue ArgumentError
        @document = Nokogiri::HTML5("")
      end

      # @return [String] the title, white space folded
      def title = text_of("title")

      # @return [String] the first main heading
      def heading = text_of("h1")

      # @return [Array<String>] `src` of each script, as written; comments and templates do not count
      def script_sources = @document.xpath("//script[@src][not(ancestor::template)]").map { |script| script["src"].strip }

      private

      def text_of(selector) = @document.at_css(selector)&.text.to_s.gsub(/[[:space:]]+/, " ").strip[0, 300]
    end
  end
end
