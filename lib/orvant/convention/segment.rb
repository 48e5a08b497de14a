# frozen_string_literal: true

require "date"

module Orvant
  class Convention
    # One part of a structured name: a fixed word, one of some values, a number, a date, or free text with
    # limits.
    class Segment
      DATE_PARTS = {
        "yyyy" => "(?<year>\\d{4})",
        "yy" => "(?<year>\\d{2})",
        "mm" => "(?<month>0[1-9]|1[0-2])",
        "dd" => "(?<day>0[1-9]|[12]\\d|3[01])"
      }.freeze

      attr_reader :name

      # @param document [Hash] `segment`, `optional`, and one of `word`, `values`, `role`, `number`, `date`,
      #   `text`
      # @param separator [String] that parts the name
      # @param roles [Hash{String => Hash}] documents, for segments that take a role's values
      # @raise [Error::UnusableDocument]
      def initialize(document, separator:, roles: {})
        @document = document
        @name = document["segment"]
        @separator = separator
        @optional = document.fetch("optional", false)
        @values = values_of(roles)
        @text = document["text"]
        @format = Expression.new(@text["format"]) if @text && @text["format"]
        if document["date"]
          @date = /\A#{document["date"]["format"].gsub(/[^a-z]/) { |sign| Regexp.escape(sign) }.gsub(/yyyy|yy|mm|dd/, DATE_PARTS)}\z/
        end
      end

      def optional? = @optional

      # @return [Integer] how many stretches between separators it may span at most
      def span
        return @text.fetch("words", 1) if @text
        return @values.map { |value| value.count(@separator) }.max.to_i + 1 if @values
        return @document["date"]["format"].count(@separator) + 1 if @date

        1
      end

      # @param text [String]
      # @return [Boolean]
      def accept?(text)
        return @values.include?(text) if @values
        return number?(text) if @document["number"]
        return date?(text) if @date

        text?(text)
      end

      # @param text [String]
      # @return [String, nil] what was meant where only a slip of the pen lies between
      def near(text)
        @values &&
          (@values.find { |value| value.casecmp?(text) } || (@nearest ||= Nearest.new(@values)).of(text))
      end

      # @return [String] what is expected, in words
      def expected
        return quoted(@values) if @values
        return "a number#{range(@document["number"])}" if @document["number"]
        return "a date as #{@document["date"]["format"]}#{range(@document["date"])}" if @date

        "text of #{shortest} to #{longest} characters#{", at most #{span} words" if span > 1}#{", that fits “#{@format}”" if @format}"
      end

      # @return [Array<String>] texts that it accepts, to show and to try the rules with; none where it can
      #   accept nothing
      def examples
        return @values.first(3) if @values

        candidates.select { |text| accept?(text) }.first(2)
      end

      private

      def values_of(roles)
        return [@document["word"]] if @document["word"]
        return @document["values"] if @document["values"]
        return unless @document["role"]

        role = roles[@document["role"]] or raise Error::UnusableDocument, "The segment “#{name}” takes the values of “#{@document["role"]}”, which is no role."
        role.dig("vocabulary", "values").to_a.map { |value| value["value"] }
      end

      def number?(text)
        bounds = @document["number"]
        return false unless text.match?(/\A\d{1,12}\z/)
        return false if bounds["digits"] && text.length != bounds["digits"]

        text.to_i.between?(bounds.fetch("from", 0), bounds.fetch("to", 10**12))
      end

      def date?(text)
        match = @date.match(text) or return false
        return false unless real?(match)

        from, to = @document["date"].values_at("from", "to")
        (from.nil? || (sortable(text) <=> sortable(from)) >= 0) &&
          (to.nil? || (sortable(text) <=> sortable(to)) <= 0)
      end

      def real?(match)
        parts = match.named_captures
        Date.valid_date?(
          parts.fetch("year", "2024").to_i,
          parts.fetch("month", "1").to_i,
          parts.fetch("day", "1").to_i
        )
      end

      # Bounds are written as the dates themselves are.
      def sortable(text)
        found = @date.match(text)&.named_captures or return []
        %w[year month day].map { |part| found[part].to_i }
      end

      def text?(text)
        text.length.between?(shortest, longest) &&
          text.split(@separator, -1).then { |words| words.size <= span && words.none?(&:empty?) } &&
          (@format.nil? || @format.match?(text))
      end

      def shortest = @text.fetch("shortest", 1)

      def longest = @text.fetch("longest", 60)

      def candidates
        return number_candidates if @document["number"]
        return date_candidates if @date

        letters = "spring walks harbour tours island".delete(" ")
        sizes = [10, 6, shortest, longest].uniq
        sizes.flat_map do |size|
          [letters, "1234567890" * 3, "ab12" * 8].map do |source|
            (source * (size / source.length + 1))[0, size]
          end
        end
      end

      def number_candidates
        bounds = @document["number"]
        first = bounds.fetch("from") { bounds["digits"] ? 10**(bounds["digits"] - 1) : 1 }
        [first, bounds["to"]].compact.map do |number|
          bounds["digits"] ? number.to_s.rjust(bounds["digits"], "0") : number.to_s
        end
      end

      def date_candidates
        bounds = @document["date"]
        written = bounds["format"].gsub(
          /yyyy|yy|mm|dd/,
          "yyyy" => "2026",
          "yy" => "26",
          "mm" => "06",
          "dd" => "15"
        )
        [written, bounds["from"], bounds["to"]].compact
      end

      def range(bounds)
        [
          bounds["from"]&.then { |from| " from #{from}" },
          bounds["to"]&.then { |to| " to #{to}" }
        ].compact.join
      end

      def quoted(values)
        shown = values.first(5).map { |value| "“#{value}”" }.join(" or ")
        (values.size > 5) ? "one of #{values.size} values (#{shown} …)" : shown
      end
    end
  end
end
