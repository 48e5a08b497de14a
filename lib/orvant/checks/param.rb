# frozen_string_literal: true

module Orvant
  module Checks
    # The family on the parameters of an address and its convention.
    module Param
      # One link among many. address: Address · kind · sightings: Array<Inventory::Sighting> · id: whatever
      # tells the caller which it is.
      Entry = Struct.new(:address, :kind, :sightings, :id, keyword_init: true)

      NOTHING = [].freeze
      # An address in which something personal may stand.
      PERSONAL = /[?&#@]/

      class << self
        # @param address [Address]
        # @param convention [Convention]
        # @param kind [String, nil] the kind of link (`ad`, `message`, …): some rules depend on it
        # @param sightings [Array<Inventory::Sighting>] where the link was found: a link on an own page is
        #   judged by other rules
        # @param panel [Panel] the checks that judge it
        # @return [Array<Finding>] each with a corrected address where one is found that passes the whole
        #   family
        def judge(address, convention, kind: nil, sightings: [], panel: Panel.usual)
          subject = LinkSubject.new(address, convention, kind: kind, sightings: sightings)
          panel = panel_for(subject, panel) or return []
          offer_corrected_address(found_on(subject, panel), subject, panel)
        end

        # Says at a glance what `judge` would find: for the effect of a change on very many links.
        #
        # @param entry [Entry]
        # @param convention [Convention]
        # @return [Array<Array(String, String)>] codes and weights, without corrections
        def verdict(entry, convention)
          unless convention.applies_to?(entry.address, kind: entry.kind) || PERSONAL.match?(entry.address.raw)
            return NOTHING
          end

          subject = subject(entry, convention)
          panel = panel_for(subject) or return NOTHING
          subject.rules.remember(panel.key(subject)) { marks(panel.findings(subject)) }
        end

        # @param entry [Entry]
        # @param convention [Convention]
        # @return [LinkSubject]
        def subject(entry, convention)
          LinkSubject.new(entry.address, convention, kind: entry.kind, sightings: entry.sightings)
        end

        # @param found [Array<Finding>]
        # @return [Array<Array(String, String)>] codes and weights
        def marks(found) = found.map { |finding| [finding.code, finding.weight] }.freeze

        # Judges what shows only over many links: one value spelled in several ways, one name with several
        # meanings.
        #
        # @param entries [Enumerable<Entry>]
        # @param convention [Convention]
        # @param sessions [Hash{String => Hash{String => Integer}}] by role and value, where traffic is known
        # @return [Array<Finding>] one for each group; `place` holds the role and the values with their links
        #   and sessions
        def judge_all(entries, convention, sessions: {})
          all_of(set_checks, SetSubject.new(entries, convention, sessions))
        end

        # @param example [String, Hash, Array] as Sample.entry takes it; several for what shows over many
        #   links only
        # @return [Array<Finding>] judged by the sample convention that the documentation prints
        def sample(example)
          return judge_all(example.map { |one| Sample.entry(one) }, Sample.convention) if example.is_a?(Array)

          entry = Sample.entry(example)
          judge(entry.address, Sample.convention, kind: entry.kind, sightings: entry.sightings)
        end

        private

        # Whatever else is not judged: what is personal is reported on links to others' hosts too, and beside
        # what stands between own pages.
        def panel_for(subject, usual = Panel.usual)
          inside = subject.whereabouts.only_internal?
          return usual if !inside && subject.convention.applies_to?(subject.seen, kind: subject.kind)

          (inside ? between_own : anywhere) unless subject.convention.exempt_kinds.include?(subject.kind)
        end

        # Links of which nothing is to be said need not be looked at again.
        def found_on(subject, panel)
          found = nil
          known = subject.rules.remember(panel.key(subject)) { marks(found = panel.findings(subject)) }
          found || (known.empty? ? NOTHING : panel.findings(subject))
        end

        def between_own = @between_own ||= Panel.new([Internal, PersonalData])

        def anywhere = @anywhere ||= Panel.new([PersonalData])

        def set_checks = @set_checks ||= Check.all.select { |check| check < SetCheck }

        def all_of(checks, subject)
          checks.select { |check| check.concerns?(subject) }.flat_map { |check| check.new(subject).findings }
        end

        # An address is offered only if it passes the whole family. What is wrong only where the link stands
        # is no fault of the address.
        def offer_corrected_address(found, subject, panel)
          return found if found.none?(&:edits)

          corrected = Correction.apply(subject.address, found.flat_map { |finding| finding.edits.to_a })
          meant = subject.with(corrected)
          others = panel.without(Internal)
          if found_on(meant, others).empty?
            found.each { |finding| finding.corrected_address = corrected.raw if finding.edits }
          end
          found
        end
      end
    end
  end
end
