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
        Glance = Struct.new(:pairs, :kind, :account, :host, :network, :circumstances)

        # @param entries [Array<Entry>]
        # @param convention [Convention] as it is now
        def initialize(entries, convention)
          @entries = entries
          @ground = convention.ground
          @before = entries.map { |entry| Param.verdict(entry, convention) }
          @glances = entries.map { |entry| glance(entry, convention) }
        end

        # @param convention [Convention] as it would be
        # @return [Array<Change>] in the order of the entries
        def changes(convention)
          known = {}.compare_by_identity
          same_ground = convention.ground == @ground
          @entries.each_with_index.filter_map do |entry, number|
            before = @before[number]
            after =
              if same_ground && @glances[number]
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
          pairs = subject.carried_alone
          if pairs
            Glance.new(
              pairs,
              entry.kind,
              subject.fact("account"),
              entry.address.host,
              subject.fact("network"),
              Panel.usual.circumstances(subject)
            )
          end
        end

        def at_a_glance(glance, entry, convention)
          rules = convention.rules_for(kind: glance.kind, account: glance.account, host: glance.host)
          marks = glance.pairs.map do |pair|
            Reading.of(
              pair,
              rules.carriers[pair.name],
              convention,
              kind: glance.kind,
              network: glance.network,
              rules: rules
            ).mark
          end
          rules.remember(glance.circumstances.first(1) + marks + glance.circumstances.drop(1)) do
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
