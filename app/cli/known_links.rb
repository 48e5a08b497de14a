# frozen_string_literal: true

require "orvant"

# What is known of links that no database holds: sightings of a list, judged by the convention, and their
# trails where they were followed.
module KnownLinks
  class << self
    # @param sightings [Array<Orvant::Inventory::Sighting>]
    # @param trails [Hash{String => Orvant::Trail}] by address
    # @param convention [Convention]
    # @return [Array<Orvant::Traffic::LinkFact>] one for each address, numbered from 1
    def of(sightings, trails, convention)
      sightings.group_by { |sighting| sighting.address.raw }.map
        .with_index(1) { |(text, same), id| link_fact(id, text, same, trails[text], convention) }
    end

    private

    def link_fact(id, text, sightings, trail, convention)
      judged = trail ? Orvant::Trail::Arrival.of(trail, convention) : Orvant::Address.new(text)
      found = findings(judged, sightings, trail, convention)
      carried = judged ? convention.values_in(judged) : {}
      Orvant::Traffic::LinkFact.new(id: id,
        address: text,
        kind: sightings.first.kind,
        place: sightings.first.place.to_s,
        page: landing(text, trail),
        since: sightings.filter_map(&:since).min,
        carried: carried,
        found: found.map { |one|
          Orvant::Traffic::Known.new(
            code: one.code,
            role: one.place["role"],
            root: Orvant::Fix::Grouping.root(
              Orvant::Fix::Entry.new(id: id, finding: one, sightings: sightings)
            )
          )
        },
        meant: meant(carried, found))
    end

    def findings(judged, sightings, trail, convention)
      param =
        if judged
          Orvant::Checks::Param.judge(judged, convention, kind: sightings.first.kind, sightings: sightings)
        else
          []
        end
      param + (trail ? Orvant::Checks::Trail.judge(trail, convention, sightings: sightings) : [])
    end

    def landing(text, trail) = Orvant::Address.new(trail ? trail.final_address : text).page

    # The link's values with every correction that is known.
    def meant(carried, found)
      corrections = found.select(&:correction).to_h { |finding| [finding.place["role"], finding.correction] }
      corrections.empty? ? {} : carried.merge(corrections).reject { |_, value| value.empty? }
    end
  end
end
