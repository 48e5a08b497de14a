# frozen_string_literal: true

module Orvant
  class Trail
    # Compares the parameters of two addresses that follow one another.
    module Fates
      class << self
        # @param before [Address] as requested
        # @param after [Address] where the hop leads
        # @return [Array<Fate>] in the order of the first address, then what was added
        def between(before, after)
          old, new = [before, after].map { |address| address.pairs.group_by(&:name).transform_values { |pairs| pairs.map(&:value) } }
          (old.keys | new.keys).flat_map { |name| of(name, old.fetch(name, []), new.fetch(name, [])) }
        end

        private

        def of(name, before, after)
          (0...[before.size, after.size].max).map do |index|
            Fate.new(name: name, before: before[index], after: after[index], fate: fate(before, after, index))
          end
        end

        def fate(before, after, index)
          return "dropped" if index >= after.size
          return before.include?(after[index]) ? "repeated" : "added" if index >= before.size

          (before[index] == after[index]) ? "kept" : "altered"
        end
      end
    end
  end
end
