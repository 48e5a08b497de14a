# frozen_string_literal: true

module Orvant
  class Convention
    # Infers the segments of structured names: how many there are, and what stands in each.
    class LearnedSegments
      FEWEST = 6
      # A place with so few words, each met several times, has a vocabulary of its own.
      FEW_WORDS = 15
      YEAR = /\A(?:19|20)\d\d\z/
      MONTH = /\A(?:0[1-9]|1[0-2])\z/

      # @param counts [Hash{String => Integer}] names and their links
      # @param separator [String]
      def initialize(counts, separator)
        @counts = counts
        @separator = separator
      end

      # @return [Array<Hash>, nil] documents of segments, nil where names have no common structure
      def documents
        return @documents if defined?(@documents)

        @documents = infer
      end

      private

      def infer
        names = @counts.keys.map { |name| name.downcase.split(@separator, -1) }
          .reject { |words| words.any?(&:empty?) }
        return if names.size < FEWEST

        size, alike = names.group_by(&:size).max_by { |_, same| same.size }
        return if size < 2 || alike.size < Learning::MAJORITY * names.size

        columns = alike.transpose
        telling = columns.map { |column| in_common(column) }
        return if telling.all? { |one| one.key?("text") }

        named(join_dates(telling, columns))
      end

      def in_common(column)
        values = column.tally
        if column.all?(YEAR)
          return {
            "year" => true,
            "number" => {"from" => column.map(&:to_i).min, "to" => column.map(&:to_i).max + 1, "digits" => 4}
          }
        end
        return {"month" => true, "number" => {"from" => 1, "to" => 12, "digits" => 2}} if column.all?(MONTH)
        return {"word" => column.first} if values.size == 1
        if column.all?(/\A\d{1,9}\z/)
          return {"number" => {"from" => 0, "to" => 10**column.map(&:length).max - 1}}
        end
        return {"values" => values.keys.sort} if values.size <= FEW_WORDS && values.size <= column.size / 2

        {"text" => {"longest" => [column.map(&:length).max, 30].max}}
      end

      # A year and a month behind it are a date, where the separator is the date's own.
      def join_dates(telling, columns)
        telling.each_with_index.filter_map do |one, place|
          next if one["month"] && place.positive? && telling[place - 1]["year"]
          next one unless one["year"] && telling[place + 1]&.key?("month")

          {"date" => {
            "format" => "yyyy#{@separator}mm",
            "from" => columns[place].zip(columns[place + 1]).map { |pair| pair.join(@separator) }.min
          }}
        end
      end

      def name_of(segment)
        return "month" if segment["date"]

        %w[year month word number].find { |part| segment[part] } || (segment["values"] ? "kind" : "theme")
      end

      def named(telling)
        names = Hash.new(0)
        telling.map do |one|
          name = name_of(one)
          names[name] += 1
          {
            "segment" => (names[name] > 1) ? "#{name} #{names[name]}" : name,
            **one.except("year", "month")
          }
        end
      end
    end
  end
end
