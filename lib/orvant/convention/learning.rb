# frozen_string_literal: true

module Orvant
  class Convention
    # Proposes rules from what is written on the links and in the traffic at hand: what most do, how many that
    # is, and what the rule would find fault with. A person accepts, edits or leaves each proposal.
    class Learning
      # One thing that was seen. values: Hash of parameter name to decoded value · links, sessions: how many
      # say so.
      Seen = Struct.new(:values, :links, :sessions, keyword_init: true)

      # One proposal. id: stable within one learning · role: or nil for pairs · rule: `case`, `separator`,
      # `vocabulary`, `segments`, `pairs` · proposed: as it would stand in the document · support: Hash
      # (`links`, `sessions`, `share` from 0 to 1) · flags: what it would find fault with (`links`, `values`:
      # some of them) · sentence.
      Proposal = Struct.new(:id, :role, :rule, :proposed, :support, :flags, :sentence, keyword_init: true) do
        def to_h = members.to_h { |name| [name.to_s, self[name]] }
      end

      # Where there is no convention yet, these names are the open standard.
      STANDARD = {
        "source" => "utm_source",
        "medium" => "utm_medium",
        "campaign" => "utm_campaign",
        "content" => "utm_content",
        "term" => "utm_term"
      }.freeze
      MAJORITY = 0.6
      # A role with so few values, each on several links, has a vocabulary.
      FEW_VALUES = 40
      SOME = 2
      SHOWN = 8

      # @param seen [Array<Seen>]
      # @param carriers [Hash{String => Array<String>}] parameter names of each role
      def initialize(seen, carriers: STANDARD.transform_values { |name| [name] })
        @roles = carriers.to_h { |role, names| [role, LearnedRole.new(role, count(seen, names))] }
          .reject { |_, role| role.empty? }
        @seen = seen
        @carriers = carriers
      end

      # @return [Array<Proposal>] by role, then pairs
      def proposals = @roles.values.flat_map(&:proposals) + [pairs].compact

      # @param document [Hash] a convention
      # @param proposals [Array<Hash>] accepted ones as `to_h` gives them, `proposed` perhaps edited
      # @return [Hash] the document with them in it
      def self.apply(document, proposals)
        document = Marshal.load(Marshal.dump(document))
        proposals.each do |one|
          if one["rule"] == "pairs"
            next document["pairs"] = (document.fetch("pairs", []) + one["proposed"]).uniq { |pair|
              pair.values_at("source", "medium")
            }
          end

          role = document["roles"].find { |known| known["role"] == one["role"] } or next
          if one["rule"] == "vocabulary"
            role["vocabulary"] = merged(role["vocabulary"], one["proposed"])
          else
            role[one["rule"]] = one["proposed"]
          end
        end
        document
      end

      # What is known of a value stays.
      def self.merged(known, proposed)
        values = known.to_h.fetch("values", [])
        taken = values.flat_map { |value| [value["value"], *value["aliases"]] }
        fresh = proposed["values"].reject { |value| taken.include?(value["value"]) }
          .map { |value|
            value.merge("aliases" => value.fetch("aliases", []) - taken)
              .reject { |key, list| key == "aliases" && list.empty? }
          }
        {"closed" => proposed.fetch("closed", false), "values" => values + fresh}
      end
      private_class_method :merged

      # @param hosts [Array<String>] the hosts of the links, the commonest first
      # @return [Hash] a convention of its own, with all proposals in it
      def document(hosts:)
        base = {"name" => "Learned rules", "note" => "Proposed from what is live", "own_hosts" => hosts,
                "roles" => @roles.keys.map { |role|
                  {
                    "role" => role,
                    "carriers" => @carriers[role],
                    "required" => %w[source medium].include?(role) ? "always" : "never"
                  }
                },
                "channels" => channels}
        self.class.apply(base, proposals.map(&:to_h).map { |one| one.transform_keys(&:to_s) })
      end

      private

      def count(seen, names)
        seen.each_with_object(Hash.new { |counts, value| counts[value] = [0, 0] }) do |one, counts|
          value = names.filter_map { |name| one.values[name] }.first.to_s
          next if value.strip.empty? || Placeholder.in(value)

          counts[value][0] += one.links.to_i
          counts[value][1] += one.sessions.to_i
        end
      end

      def pairs
        return unless @roles["source"] && @roles["medium"]

        counts = Hash.new { |all, pair| all[pair] = [0, 0] }
        @seen.each do |one|
          pair(one)&.then do |pair|
            counts[pair] = [counts[pair][0] + one.links.to_i, counts[pair][1] + one.sessions.to_i]
          end
        end
        kept, rare = counts.partition { |_, (links, sessions)| links >= SOME || sessions >= 10 * SOME }
        return if kept.empty?

        Proposal.new(id: "pairs",
          rule: "pairs",
          proposed: kept.map { |(source, medium), _| {"source" => source, "medium" => medium} },
          support: support(kept, counts),
          flags: flags(rare),
          sentence: "#{kept.size} pairs of source and medium are in use on several links; #{rare.size} stand on one only.")
      end

      def pair(one)
        source, medium = %w[source medium].map do |role|
          @carriers[role].filter_map { |name| one.values[name] }.first
        end
        if source.to_s != "" && medium.to_s != ""
          [@roles["source"].meant(source), @roles["medium"].meant(medium)]
        end
      end

      def support(kept, counts)
        links = kept.sum { |_, (one, _)| one }
        {
          "links" => links,
          "sessions" => kept.sum { |_, (_, one)| one },
          "share" => (links.to_f / [counts.sum { |_, (one, _)| one }, 1].max).round(3)
        }
      end

      def flags(rare)
        {
          "links" => rare.sum { |_, (one, _)| one },
          "values" => rare.first(SHOWN).map { |pair, _| pair.join(" / ") }
        }
      end

      # Each medium leads to a channel of its name; whoever takes the rules over names them better.
      def channels
        mediums = @roles["medium"]&.kept.to_a
        [{
          "channel" => "Direct",
          "when" => %w[source medium referrer].map { |field| {"field" => field, "empty" => true} }
        }] +
          mediums.map { |medium|
            {
              "channel" => medium.tr("-_", "  ").capitalize,
              "when" => [{"field" => "medium", "is" => [medium]}]
            }
          }
      end
    end
  end
end
