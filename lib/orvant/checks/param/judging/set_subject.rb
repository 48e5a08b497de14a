# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # What the checks over many links judge: for each role its values, as they would be if each link's own
      # faults were mended, so that one root makes one finding.
      class SetSubject
        # What is known of one value. links: ids · sessions · sources: of the links.
        Use = Struct.new(:links, :sessions, :sources)

        attr_reader :convention

        # @return [Array<Array(Object, Inventory::Sighting, String)>] ids of links, their sightings as ads,
        #   and the campaign that each link writes
        attr_reader :ads

        # @param entries [Enumerable<Entry>]
        # @param convention [Convention]
        # @param sessions [Hash{String => Hash{String => Integer}}] by role and value, as traffic recorded
        #   them
        def initialize(entries, convention, sessions = {})
          @convention = convention
          @sessions = sessions
          @uses = convention.roles.to_h { |role| [role.name, {}] }
          @names = {}
          @ads = []
          entries.each { |entry| take(entry) }
        end

        # @param role [String]
        # @return [Hash{String => Use}] by value
        def uses(role) = @uses.fetch(role, {})

        # @return [Hash{String => Hash{Array(String, String) => Array}}] names that networks know: network and
        #   level, with the ids of links
        attr_reader :names

        private

        def take(entry)
          named(entry)
          return unless convention.applies_to?(entry.address, kind: entry.kind)

          subject = LinkSubject.new(
            entry.address,
            convention,
            kind: entry.kind,
            sightings: entry.sightings || []
          )
          return if subject.whereabouts.only_internal?

          source = subject.carried.mended["source"]
          subject.carried.readings.each { |reading| count(reading, entry, source) }
        end

        def count(reading, entry, source)
          return if reading.role.free_text? || !reading.legible? || reading.tokens.found.any?

          role, value = reading.role.name, reading.corrected
          use = (@uses[role][value] ||= Use.new([], @sessions.dig(role, value).to_i, {}))
          use.links << entry.id
          use.sources[source] = true
        end

        # A token is nobody's name.
        def campaign_of(entry)
          value = convention.value_in(entry.address, "campaign").to_s
          convention.template?(value) ? "" : value
        end

        def named(entry)
          (entry.sightings || []).each do |sighting|
            if sighting.kind == "ad" && sighting.facts
              @ads << [entry.id, sighting, campaign_of(entry)]
            end
          end
          (entry.sightings || []).each do |sighting|
            facts = sighting.facts or next
            next unless facts["network"]

            %w[account campaign group ad].each do |level|
              if facts[level]
                ((@names[facts[level].downcase] ||= {})[[facts["network"], level]] ||= []) << entry.id
              end
            end
          end
        end
      end
    end
  end
end
