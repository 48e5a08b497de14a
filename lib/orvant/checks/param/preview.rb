# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # What a change of the convention would do to the links at hand.
      class Preview
        # One link whose verdict changes. id: as the entry has it · before, after: the heaviest weight, "" for
        # clean · gone, come: codes.
        Change = Struct.new(:id, :before, :after, :gone, :come)

        RANK = {"" => 0, "untidy" => 1, "skews" => 2, "breaks" => 3}.freeze

        # @param entries [Array<Entry>]
        # @param convention [Convention] as it is now
        def initialize(entries, convention)
          @entries = entries
          @before = entries.map { |entry| Param.verdict(entry, convention) }
        end

        # @param convention [Convention] as it would be
        # @return [Array<Change>] in the order of the entries
        def changes(convention)
          known = {}.compare_by_identity
          @entries.zip(@before).filter_map do |entry, before|
            after = Param.verdict(entry, convention)
            shift = (known[before] ||= {}.compare_by_identity).fetch(after) do
              known[before][after] = shift(before, after)
            end
            Change.new(entry.id, *shift) if shift
          end
        end

        private

        # Links of one kind change alike, so that few shifts stand for many links.
        def shift(before, after)
          was, is = before.map(&:first), after.map(&:first)
          unless was.sort == is.sort && heaviest(before) == heaviest(after)
            [heaviest(before), heaviest(after), was - is, is - was]
          end
        end

        def heaviest(found) = found.map(&:last).max_by { |weight| RANK[weight] } || ""
      end
    end
  end
end
