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

        # What is known of a link whose values alone can change its verdict: its pairs that carry roles, the
        # scope of its rules, and the rest of its signature.
        Glance = Struct.new(:pairs, :kind, :account, :host, :network, :beside)

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
            before = @before[number]
            after =
              if same_reach && @glances[number]
                at_a_glance(@glances[number], entry, convention)
              else
                Param.verdict(entry, convention)
              end
            shift = (known[before] ||= {}.compare_by_identity).fetch(after) do
              known[before][after] = shift(before, after)
            end
            Change.new(entry.id, *shift) if shift
          end
        end

        private

        def glance(entry, convention)
          return unless convention.applies_to?(entry.address, kind: entry.kind)

          subject = LinkSubject.new(entry.address, convention, kind: entry.kind, sightings: entry.sightings)
          pairs = pairs_alone(subject) or return
          Glance.new(
            pairs,
            entry.kind,
            subject.whereabouts.said_of("account"),
            entry.address.host,
            subject.whereabouts.said_of("network"),
            Panel.usual.key_beside_values(subject)
          )
        end

        def pairs_alone(subject)
          subject.carried.pairs_alone if subject.structure.sound? && subject.whereabouts.internal.empty?
        end

        def at_a_glance(glance, entry, convention)
          rules = convention.rules_for(kind: glance.kind, account: glance.account, host: glance.host)
          scope = Reading::Scope.new(convention, glance.kind, glance.network, rules)
          marks = glance.pairs.map { |pair| Reading.of(pair, rules.carriers[pair.name], scope).mark }
          rules.remember(glance.beside.first(1) + marks + glance.beside.drop(1)) do
            Param.found_on(LinkSubject.new(
              entry.address,
              convention,
              kind: entry.kind,
              sightings: entry.sightings
            ))
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
