# frozen_string_literal: true

module Orvant
  class Trail
    # Compares the parameters of two addresses that follow one another.
    module Fates
      NONE = [].freeze

      class << self
        # @param before [Address] as requested; an out-link carries the parameters of the address within it,
        #   to which it leads
        # @param after [Address] where the hop leads
        # @return [Array<Fate>] in the order of the first address, then what was added
        def between(before, after)
          new = values(after)
          inner = before.within.find { |address| address.page == after.page }
          old = values(*inner, before)
          moved = moved_names(before, after)
          (old.keys | new.keys).flat_map do |name|
            of(name, old.fetch(name, NONE), new.fetch(name, NONE), moved)
          end
        end

        private

        def values(*addresses)
          addresses.flat_map(&:pairs).group_by(&:name)
            .transform_values { |pairs| pairs.map(&:value) }
        end

        def of(name, before, after, moved)
          Array.new([before.size, after.size].max) do |index|
            fate = fate(before, after, index)
            fate = "moved" if fate == "dropped" && moved.include?(name)
            Fate.new(name: name, before: before[index], after: after[index], fate: fate,
              how: (how(before[index], after[index]) if fate == "altered"))
          end
        end

        def fate(before, after, index)
          return "dropped" if index >= after.size
          return before.include?(after[index]) ? "repeated" : "added" if index >= before.size

          (before[index] == after[index]) ? "kept" : "altered"
        end

        # Names that stand behind the fragment's sign now and did not before.
        def moved_names(before, after)
          return NONE if after.fragment.nil? || after.fragment == before.fragment

          Address::Pair.split(after.fragment.sub(/\A[^?&=]*\?/, "")).map(&:name)
        end

        # What was done to a value: it was encoded once more or less, its letter case folded, its end cut, or
        # it was replaced.
        def how(before, after)
          return "re-encoded" if recoded?(before, after) || recoded?(after, before)
          return "folded" if before.casecmp?(after)
          return "cut" if !after.empty? && before.length > after.length && before.start_with?(after)

          "replaced"
        end

        # Decoded once more it is the other, or its letters were written in another character set, which shows
        # as signs that cannot be read, or as other letters.
        def recoded?(one, other)
          Address::Pair.decode(one) == other ||
            (other.include?("\uFFFD") && one.gsub(/[^\x00-\x7f]/, "") == other.delete("\uFFFD")) ||
            (other != one && Misread.mend(other) == one)
        end
      end
    end
  end
end
