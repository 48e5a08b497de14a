# frozen_string_literal: true

module Orvant
  module Page
    # Calls of a tag's functions that run while the page is read, before anything has made the function.
    class Calls
      # Strings, comments and patterns, in which braces and names mean nothing.
      SILENT = %r{"(?:\\.|[^"\\\n])*"|'(?:\\.|[^'\\\n])*'|`(?:\\.|[^`\\])*`|//[^\n]*|/\*.*?\*/}m
      BRACES = {"{" => 1, "}" => -1}.freeze

      # @param scripts [Array<Markup::Script>] in the order of the page
      # @param functions [Array<String>] names
      def initialize(scripts, functions)
        @scripts = scripts
        @functions = functions
      end

      # @param position [Integer, nil] of the script that is the base code; nil where there is none
      # @return [String, nil] the first call above it, as written
      def above(position)
        before = @scripts.take_while { |script| position.nil? || script.position < position }.reject(&:src)
        @functions.filter_map { |name| first_call(before, name) }.first
      end

      private

      def makes?(text, name)
        text.match?(/\bfunction\s+#{Regexp.escape(name)}\b|(?:\bwindow\s*(?:\.\s*|\[\s*["']))?\b#{Regexp.escape(name)}\b(?:["']\s*\])?\s*(?:\|\|=|=(?!=))/)
      end

      # Once something has made the function it may be called.
      def first_call(scripts, name)
        scripts.take_while { |script| !makes?(script.text, name) }
          .filter_map { |script| at_once(script.text, name) }.first
      end

      # What stands within a function runs later, if ever.
      def at_once(text, name)
        plain = text.gsub(SILENT) { |found| " " * found.length }
        depth = 0
        calls = []
        plain.scan(/[{}]|(?<![\w.$])#{Regexp.escape(name)}\s*\(/) do |found|
          depth += BRACES.fetch(found, 0)
          calls << Regexp.last_match.begin(0) unless BRACES.key?(found) || depth.positive?
        end
        calls.first && text[calls.first, 80].lines.first.strip
      end
    end
  end
end
