# frozen_string_literal: true

module Orvant
  class Convention
    # What one role's values have in common.
    class LearnedRole
      # More values than this are no list that people keep.
      MOST_VALUES = 5_000
      SEPARATORS = ["-", "_", " ", ".", "/"].freeze

      # @param name [String]
      # @param counts [Hash{String => Array(Integer, Integer)}] value to links and sessions
      def initialize(name, counts)
        @name = name
        @counts = counts
      end

      def empty? = @counts.empty?

      # @return [Array<Learning::Proposal>]
      def proposals = [letter_case, separator, vocabulary, segments].compact

      # @return [Array<String>] the values that would be permitted
      def kept = groups.map(&:first)

      # @param value [String]
      # @return [String] the value that it is a spelling of
      def meant(value)
        (@meant ||= groups.flat_map { |keep, others|
          [keep, *others].map { |one| [one, keep] }
        }.to_h).fetch(value, value)
      end

      private

      def total = @total ||= [@counts.sum { |_, (links, _)| links }, 1].max

      def propose(rule, proposed, sentence, &follows)
        good, bad = @counts.partition { |value, _| follows.call(value) }
        links = good.sum { |_, (one, _)| one }
        Learning::Proposal.new(id: "#{@name} #{rule}",
          role: @name,
          rule: rule,
          proposed: proposed,
          sentence: sentence,
          support: {
            "links" => links,
            "sessions" => good.sum { |_, (_, one)| one },
            "share" => (links.to_f / total).round(3)
          },
          flags: {
            "links" => bad.sum { |_, (one, _)| one },
            "values" => bad.max_by(Learning::SHOWN) { |_, (one, _)| one }.map(&:first)
          })
      end

      def share(&follows) = @counts.sum { |value, (links, _)| follows.call(value) ? links : 0 }.to_f / total

      def letter_case
        lower, upper = share { |value| value == value.downcase }, share { |value|
          value == value.upcase &&
            value.match?(/\p{L}/)
        }
        best, part = (lower >= upper) ? ["lower", lower] : ["upper", upper]
        if part >= Learning::MAJORITY
          propose(
            "case",
            best,
            "#{percent(part)} of the links write the #{@name} in #{best} case."
          ) do |value|
            value == ((best == "lower") ? value.downcase : value.upcase)
          end
        end
      end

      def separator
        divided = @counts.select { |value, _| value.match?(/[\p{L}\d][-_ .\/][\p{L}\d]/) }
        return if divided.empty?

        weights = SEPARATORS.to_h do |sign|
          [sign, divided.sum { |value, (links, _)| value.include?(sign) ? links : 0 }]
        end
        best, links = weights.max_by(&:last)
        return if links < Learning::MAJORITY * divided.sum { |_, (one, _)| one } || best == " "

        others = SEPARATORS - [best]
        propose("separator", best, "Words of the #{@name} are mostly parted by “#{best}”.") do |value|
          others.none? { |sign| value.match?(/[\p{L}\d]#{Regexp.escape(sign)}[\p{L}\d]/) }
        end
      end

      # @return [Array<Array(String, Array<String>)>] each value with its other spellings
      def groups
        @groups ||= begin
          joined = Spelling.new(@counts.transform_values { |links, sessions| links + sessions / 100 }).groups
          spelled = joined.to_h { |group| best_of(group) }
          rest = @counts.keys - spelled.flat_map { |keep, others| [keep, *others] }
          spelled.to_a + rest.map { |value| [value, []] }
        end
      end

      # The likeliest spelling: in the letter case of most, without blanks, on the most links.
      def best_of(group)
        all = [group.keep, *group.others]
        keep = all.max_by do |value|
          [
            (value == value.downcase) ? 1 : 0,
            value.match?(/\s/) ? 0 : 1,
            @counts[value][0],
            @counts[value][1]
          ]
        end
        [keep, all - [keep]]
      end

      def vocabulary
        common = groups.select do |keep, others|
          [keep, *others].sum { |value| @counts[value][0] } >= Learning::SOME ||
            [keep, *others].sum { |value| @counts[value][1] } >= 10 * Learning::SOME
        end
        return if common.empty? || common.size > MOST_VALUES

        closed = common.size <= Learning::FEW_VALUES && %w[source medium].include?(@name)
        return if !closed && common.none? { |_, others| others.any? }

        common = common.select { |_, others| others.any? } unless closed
        values = common.sort_by { |keep, _| -@counts[keep][0] }
          .map { |keep, others| {"value" => keep, "aliases" => others}.reject { |_, list| list == [] } }
        known = common.to_h
        propose("vocabulary", {"closed" => closed, "values" => values}, said(values, closed)) do |value|
          closed ? known.key?(value) : known.none? { |_, others| others.include?(value) }
        end
      end

      def said(values, closed)
        spelled = values.count { |value| value["aliases"] }
        "#{values.size} #{@name}s #{closed ? "stand on several links each" : "are spelled in several ways"}#{"; #{spelled} of them are spelled in several ways, the likeliest is the value and the rest its aliases" if closed && spelled.positive?}."
      end

      def segments
        sign = separator&.proposed || "-"
        learned = LearnedSegments.new(@counts.transform_values(&:first), sign)
        return if %w[source medium].include?(@name) || learned.documents.nil?

        rules = Segments.new(learned.documents, separator: sign)
        propose(
          "segments",
          learned.documents,
          "Most values of #{@name} have #{learned.documents.size} parts: #{rules}."
        ) do |value|
          rules.match(value).complete?
        end
      end

      def percent(part) = "#{(part * 100).round} %"
    end
  end
end
