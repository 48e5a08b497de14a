# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds ads that were copied into another campaign and still write the name of the one they come from.
      class CopiedName < SetCheck
        describes "param/copied-name", weight: "skews",
          why: "A copied ad that still names its first campaign credits that one with every click, and its own campaign with none.",
          fails: [Sample.ad("utm_source=lanternfind&utm_medium=paid-search&utm_campaign=seals", network: "Lanternfind", campaign: "Seals"),
            Sample.ad("utm_source=lanternfind&utm_medium=paid-search&utm_campaign=seals&a=1", network: "Lanternfind", campaign: "Seals"),
            Sample.ad("utm_source=lanternfind&utm_medium=paid-search&utm_campaign=walks", network: "Lanternfind", campaign: "Walks"),
            Sample.ad("utm_source=lanternfind&utm_medium=paid-search&utm_campaign=walks&a=1", network: "Lanternfind", campaign: "Walks"),
            Sample.ad("utm_source=lanternfind&utm_medium=paid-search&utm_campaign=walks&a=2", network: "Lanternfind", campaign: "Seals")],
          passes: [
            Sample.ad("utm_source=lanternfind&utm_medium=paid-search&utm_campaign=walks", network: "Lanternfind", campaign: "Seals"),
            Sample.ad("utm_source=lanternfind&utm_medium=paid-search&utm_campaign=walks&a=1", network: "Lanternfind", campaign: "Walks")
          ]
        # A name is a campaign's own where so many of its ads write it.
        OWN = 2
        COPY = /\bcopy\b|\bcopied\b|\bduplicate\b|\bkopie\b|\bcopie\b|\bcopia\b|\bkopi\b/i

        def findings
          subject.ads.group_by { |_, one, _| one.facts["network"] }.values.flat_map { |ads| of_network(ads) }
        end

        private

        def of_network(ads)
          campaigns = ads.group_by { |_, one, _| one.facts["campaign"] }.except(nil)
          owners = campaigns.filter_map { |name, own| (value = own_value(own)) && [value, name] }.to_h
          campaigns.flat_map { |name, own| own.filter_map { |ad| copied(ad, name, own_value(own), owners) } }
        end

        # @return [String, nil] what most of a campaign's ads write, where it is plain
        def own_value(ads)
          value, count = ads.map(&:last).reject(&:empty?).tally.max_by(&:last)
          value if count.to_i >= OWN && count > ads.size / 2
        end

        # Where nothing tells what its own campaign writes, only an ad that says it is a copy is believed to
        # be one.
        def copied(ad, campaign, own, owners)
          id, sighting, value = ad
          owner = owners[value]
          return if owner.nil? || owner == campaign || value == own
          return unless own || [sighting.facts["ad"], campaign].any? { |name| name.to_s.match?(COPY) }

          report(id, sighting, value, campaign, owner, own)
        end

        def report(id, sighting, value, campaign, owner, own)
          role = subject.convention.role("campaign")
          finding("#{sighting.place.to_s.empty? ? "An ad" : "“#{sighting.place}”"} stands in the campaign “#{campaign}” and writes “#{value}”, the name of “#{owner}”: that one is credited with its clicks.",
            parameter: role.carrier,
            place: {"role" => "campaign", "name" => value, "links" => [id].compact},
            evidence: ["#{role.carrier}=#{value}"],
            correction: own,
            root: "param/copied-name #{sighting.key || sighting.place || id}",
            remedy: Remedy.new(
              at: "convention",
              place: sighting.place.to_s,
              action: "Write #{own ? "“#{own}”" : "the name of its own campaign"} in #{role.carrier} of this ad.",
              value: own
            ))
        end
      end
    end
  end
end
