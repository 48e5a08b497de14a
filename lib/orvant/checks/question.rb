# frozen_string_literal: true

module Orvant
  module Checks
    # The settings at which checks look beside the rules. A look proves something only where it asked the
    # same: so each check declares which of them it reads (`Check.asks`), and here stands what of a setting
    # concerns one finding.
    #
    # Settings are a Hash of `signatures`, `expected_tags`, `expected_fields`, `watching` and `rehearsals`, as
    # a workspace has them.
    module Question
      # By name: from settings and the place of a finding to what of them concerns it.
      PARTS = {
        signature: ->(settings, place) { of_tag(settings["signatures"], place["tag"]) },
        # The tags that the rehearsal listens for.
        signatures: lambda { |settings, place|
          script = settings["rehearsals"].to_h[place["rehearsal"]].to_json
          settings["signatures"].to_a.select { |one| script.include?(one["tag"].to_json) }
        },
        expected_tags: lambda { |settings, place|
          Watching.new({"expected_tags" => settings["expected_tags"].to_a})
            .expected(place["page"].to_s)
            .select { |one| one.tag == place["tag"] }
            .map(&:to_a)
        },
        expected_fields: lambda { |settings, place|
          settings["expected_fields"].to_a.select { |one|
            one["field"] == place["field"] && one["page"] == place["page"].to_s[/\A[^?#]*/]
          }
        },
        # Which clicks are a choice: tags are heard after a yes.
        states: ->(settings, _place) { settings["watching"].to_h["consent"].to_h.slice("yes", "no") },
        # What the tag may do after each choice.
        consent: lambda { |settings, place|
          of_tag(settings["watching"].to_h["consent"].to_h["tags"], place["tag"])
        },
        goals: lambda { |settings, place|
          goals = settings["watching"].to_h["goals"].to_a
          goals = goals.select { |one| Watching.on?(one["page"], place["page"]) } if place["page"]
          goals.map { |one| [one["page"], of_tag(one["events"], place["tag"])] }
        },
        # Which events are counted is what the analytics tool says of itself; whether anybody asked it is
        # ours.
        counting: ->(settings, _place) { !settings["watching"].to_h["counted_events"].nil? },
        variants: lambda { |settings, place|
          pages = [place["page"], *place["pages"]].compact.map { |page| page[/\A[^?#]*/] }
          settings["watching"].to_h["variants"].to_a.select { |list| list.intersect?(pages) }
        },
        collection_points: ->(settings, _place) { settings["watching"].to_h["collection_points"].to_a },
        rehearsal: ->(settings, place) { settings["rehearsals"].to_h[place["rehearsal"]] }
      }.freeze

      class << self
        # @param code [String] of a check
        # @param place [Hash] of its finding
        # @param settings [Hash]
        # @return [Hash{Symbol => Object}] what of the settings the check reads for such a finding
        def of(code, place, settings)
          asked = Check.all.find { |check| check.code == code }&.asked.to_a
          asked.to_h { |name| [name, PARTS.fetch(name).call(settings, place.to_h)] }
        end

        private

        def of_tag(list, tag) = list.to_a.select { |one| tag.nil? || one["tag"] == tag }
      end
    end
  end
end
