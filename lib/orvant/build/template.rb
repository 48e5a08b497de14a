# frozen_string_literal: true

module Orvant
  module Build
    # Rows for work that comes again, with fields to fill: a field stands in a value as `‹name›`.
    class Template
      FIELD = /‹([^‹›]{1,40})›/
      MOST_ROWS = 200

      attr_reader :rows

      # @param rows [Array<Hash>] rows as JSON has them
      def initialize(rows)
        @rows = rows.first(MOST_ROWS)
      end

      # @return [Array<String>] the names of its fields, in the order in which they occur
      def fields = texts.flat_map { |text| text.scan(FIELD).flatten }.uniq

      # @param answers [Hash{String => String}] what the person fills in
      # @return [Array<Hash>] rows; a field without an answer stays and is seen
      def fill(answers)
        rows.map do |row|
          row.merge(
            "landing" => filled(row["landing"].to_s, answers),
            "values" => row["values"].to_h.transform_values { |text| filled(text.to_s, answers) }
          )
        end
      end

      private

      def texts = rows.flat_map { |row| [row["landing"].to_s, *row["values"].to_h.values.map(&:to_s)] }

      def filled(text, answers)
        text.gsub(FIELD) { |mark| answers[$1].to_s.empty? ? mark : answers[$1].to_s }
      end
    end
  end
end
