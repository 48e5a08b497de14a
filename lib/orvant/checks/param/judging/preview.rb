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

        # What is known of a link where rules for values alone change: the pairs that carry its roles, what
        # rules for a scope ask for, and what stands on it beside those pairs. Nothing else of it is read
        # again: over 100,000 links that saves half of five seconds.
        Glance = Struct.new(:pairs, :scope, :beside)

        # @param entries [Array<Entry>]
        # @param convention [Convention] as it is now
        def initialize(entries, convention)
          @entries = entries
          @reach = convention.reach
          @before = entries.map { |entry| Param.verdict(entry, convention) }
          @glances = entries.map { |entry| glance(entry, convention) }
        end

        # @param convention [Convention] as it would be
        # @return [Array<Change>] in the order of the entries
        def changes(convention)
          known = {}.compare_by_identity
          same_reach = convention.reach == @reach
          @entries.each_with_index.filter_map do |entry, number|
            before, glance = @before[number], (@glances[number] if same_reach)
            after = glance ? at_a_glance(glance, entry, convention) : Param.verdict(entry, convention)
            shift = (known[before] ||= {}.compare_by_identity).fetch(after) do
              known[before][after] = shift(before, after)
            end
            Change.new(entry.id, *shift) if shift
          end
        end

        private

        def glance(entry, convention)
          return unless convention.applies_to?(entry.address, kind: entry.kind)

          subject = Param.subject(entry, convention)
          return unless subject.structure.sound? && subject.whereabouts.internal.empty?

          pairs = subject.carried.pairs_alone
          Glance.new(pairs, subject.scope, Panel.usual.beside(subject)) if pairs
        end

        def at_a_glance(glance, entry, convention)
          rules = convention.rules_for(**glance.scope)
          scope = Reading::Scope.new(convention, entry.kind, glance.scope[:network], rules)
          faults = glance.pairs.map { |pair| Reading.of(pair, rules.carriers[pair.name], scope).mark }
          rules.remember(Panel.usual.key_of(faults, glance.beside)) do
            Param.marks(Panel.usual.findings(Param.subject(entry, convention)))
          end
        end

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
