# frozen_string_literal: true

module Orvant
  class Convention
    # Groups spellings that look like one value: those that differ by case, separators or accents alone
    # always; those that differ by plural, word order or a slip of the pen only where one of them is rare.
    # Different numbers, dates and codes are different values.
    class Spelling
      # keep: the value that was meant: a permitted one, else the commonest · others: the rest, commonest
      # first.
      Group = Struct.new(:keep, :others, keyword_init: true)

      # Of two values that carry this share of their links each, neither is a slip of the other.
      GOOD_SHARE = 0.25
      FEW = 3
      # A slip in so long a text may be a second one too; so many texts are compared by two letters left out,
      # more by one.
      LONG = 12
      MANY = 3_000
      CALENDAR = %w[
        jan january feb february mar march apr april may jun june jul july aug august sep sept september
        oct october nov november dec december
        mon monday tue tuesday wed wednesday thu thursday fri friday sat saturday sun sunday
        spring summer autumn fall winter
      ].to_h { |word| [word, true] }.freeze
      DATE = /(?<!\d)((?:19|20)\d\d)[-_.\/ ]?(0?[1-9]|1[0-2])(?:[-_.\/ ]?(0?[1-9]|[12]\d|3[01]))?(?!\d)/
      YEAR = /\A(?:19|20)\d\d\z/

      # A value taken apart. words: letters, folded · numbers: as written, leading zeros of dates aside.
      Parts = Struct.new(:value, :links, :words, :numbers, :strict, keyword_init: true)

      # @param counts [Hash{String => Integer}] values and how many links carry each
      # @param permitted [#include?] values that are right as they stand
      def initialize(counts, permitted: [])
        @counts = counts
        @permitted = permitted
      end

      # @return [Array<Group>] those of two spellings or more
      def groups
        heads = strict_groups
        join_loose(heads)
        heads.values.reject { |group| group.nil? || group.others.empty? }
          .sort_by { |group| -@counts[group.keep] }
      end

      private

      # @return [Hash{Parts => Group}] by the parts of the value to keep, commonest first
      def strict_groups
        parts = @counts.map { |value, links| parts(value, links) }.reject { |one| one.strict.strip.empty? }
        sets = parts.group_by(&:strict).values.map do |same|
          same.sort_by { |one| [permitted?(one) ? 0 : 1, -one.links, one.value] }
        end
        sets.sort_by { |same| -same.sum(&:links) }
          .to_h { |first, *rest| [first, Group.new(keep: first.value, others: rest.map(&:value))] }
      end

      def permitted?(parts) = @permitted.include?(parts.value)

      def parts(value, links)
        pieces = dated(value).unicode_normalize(:nfkd).gsub(/\p{Mn}/, "").downcase(:fold).scan(/\p{L}+|\d+/)
        numbers = numbers(pieces)
        words = pieces.grep(/\D/)
        Parts.new(value: value, links: links, words: words, numbers: numbers, strict: strict(pieces, numbers))
      end

      # A date is one number, with and without its dividers.
      def dated(value) = value.gsub(DATE) { format("%s%02d%s", $1, $2.to_i, $3 && format("%02d", $3.to_i)) }

      # Words run together, numbers never.
      def strict(pieces, numbers)
        rest = numbers.dup
        pieces.map { |piece| piece.match?(/\d/) ? " #{rest.shift} " : piece }.join.squeeze(" ")
      end

      # Beside a year a month or day may be written with its zero or without.
      def numbers(pieces)
        digits = pieces.grep(/\d/)
        return digits unless digits.any? { |one| one.match?(YEAR) }

        digits.map { |one| (one.length <= 2) ? one.to_i.to_s : one }
      end

      # Each value joins a heavier one that it is a loose spelling of; nothing joins what has itself joined
      # another.
      def join_loose(heads)
        @seen = {}
        heads.keys.reject { |parts| parts.words.empty? }.each do |parts|
          target = neighbours(parts).find { |other| heads[other] && meant?(parts, other) }
          next remember(parts) unless target

          heads[target].others.push(parts.value, *heads[parts].others)
          heads[parts] = nil
        end
      end

      def neighbours(parts) = traces(parts).flat_map { |trace| @seen[trace] || [] }.uniq

      def remember(parts) = traces(parts).each { |trace| (@seen[trace] ||= []) << parts }

      # Texts a slip apart leave a trace in common: both with a letter less, or one as it is (symmetric
      # deletion).
      def traces(parts)
        texts(parts).flat_map { |text| traces_of(text) }.uniq.map { |trace| [trace, parts.numbers] }
      end

      def traces_of(text)
        found = [text, *without_one(text)]
        if text.length >= LONG && @counts.size <= MANY
          found += without_one(text).flat_map { |shorter| without_one(shorter) }
        end
        found
      end

      # A slip at the end of a word may look like a plural.
      def texts(parts) = [loose(parts), parts.words.sort.join(" ")].uniq

      def without_one(text)
        (text.length > 3) ? Array.new(text.length) { |place| text[0, place] + text[(place + 1)..] } : []
      end

      def loose(parts) = parts.words.map { |word| singular(word) }.sort.join(" ")

      def singular(word)
        return word if word.length < 4 || word.end_with?("ss")
        return "#{word[0..-4]}y" if word.end_with?("ies")
        return word[0..-3] if word.match?(/(?:x|ch|sh|ss)es\z/)

        word.chomp("s")
      end

      def meant?(parts, other)
        return false if permitted?(parts) && permitted?(other)
        return false if parts.links >= FEW && parts.links >= GOOD_SHARE * (parts.links + other.links)

        return true if loose(parts) == loose(other)

        !codes_differ?(parts, other) && texts(parts).product(texts(other)).any? { |one, two| slip?(one, two) }
      end

      # A short word that differs in two letters is another word, however long the text around it.
      def slip?(one, two)
        words = [one, two].map { |text| text.split(" ") }
        return !Nearest.distance(one, two).nil? if words.map(&:size).uniq.size > 1

        words.transpose.all? { |pair| pair.uniq.size == 1 || Nearest.distance(*pair) }
      end

      # Where the words that differ are months, weekdays, seasons or short codes, they mean different things.
      def codes_differ?(parts, other)
        one, two = parts.words - other.words, other.words - parts.words
        return true if one.empty? || two.empty?

        (one + two).all? { |word| word.length <= 3 } || (one + two).all? { |word| CALENDAR.key?(word) }
      end
    end
  end
end
