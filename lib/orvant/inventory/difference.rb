# frozen_string_literal: true

module Orvant
  module Inventory
    # Compares what a source held at two times, ad by ad (or entry by entry), by the key under which the
    # source knows each.
    module Difference
      # An entry as it was remembered. key · address · place · status · facts: Hash of strings (tail, pattern,
      # campaign, …).
      Entry = Struct.new(:key, :address, :place, :status, :facts, keyword_init: true) do
        # @param sighting [Sighting]
        def self.of(sighting)
          facts = sighting.facts.to_h.slice(
            "campaign",
            "group",
            "ad",
            "tail",
            "pattern",
            "lost",
            "lost by",
            "lost written"
          )
            .merge("landing" => sighting.declared&.raw,
              "clicks through" => sighting.click && sighting.click["before"],
              "target" => sighting.target&.raw)
          new(
            key: sighting.key || sighting.identity.join(" "),
            address: sighting.address.raw,
            place: sighting.place,
            status: sighting.status.to_s,
            facts: facts.compact
          )
        end

        def to_h = members.to_h { |name| [name.to_s, self[name]] }
      end

      # One change. what: `new`, `gone`, `changed` or `copied` · sentence: in words · before and after:
      # entries as hashes, or nil.
      Change = Struct.new(:what, :key, :place, :sentence, :before, :after, keyword_init: true) do
        def to_h = members.to_h { |name| [name.to_s, self[name]] }
      end

      class << self
        # What a place carried that links must carry, and carries no more; what it had lost before stays lost
        # until it is carried again.
        #
        # @param before [Entry]
        # @param after [Entry]
        # @param convention [Convention]
        # @return [Hash{String => String}] `lost` (roles), `lost by` (what was changed) and `lost written` (as
        #   it stood), {} where nothing was lost
        def loss(before, after, convention)
          old, new = [before, after].map { |entry|
            convention.values_in(Address.new(entry.address))
              .reject { |_, value| value.strip.empty? }
          }
          gone = (old.keys - new.keys) &
            convention.roles.reject { |role| role.required == "never" }.map(&:name)
          return still_lost(before, new) if gone.empty?

          carriers = gone.flat_map { |role| convention.role(role).carriers }
          written = Address.new(before.address).pairs.select { |pair|
            carriers.include?(pair.name)
          }.map(&:raw).join("&")
          {
            "lost" => gone.join(","),
            "lost by" => edits(before, after).first.to_s.sub(/\AIts /, "its ").chomp("."),
            "lost written" => written
          }.reject do |_, said|
            said.empty?
          end
        end

        # @param before [Array<Entry>]
        # @param after [Array<Entry>]
        # @param convention [Convention] tells parameters that matter from those that do not
        # @return [Array<Change>] in the order of `after`, then what is gone
        def between(before, after, convention)
          old, new = [before, after].map { |entries| entries.to_h { |entry| [entry.key, entry] } }
          changes = new.filter_map do |key, entry|
            old[key] ? changed(old[key], entry, convention) : added(entry, before, convention)
          end
          changes +
            old.except(*new.keys).values.map { |entry|
              change("gone", entry, nil, "It is not there any more.")
            }
        end

        private

        def still_lost(before, carried)
          known = before.facts.to_h.slice("lost", "lost by", "lost written")
          (known["lost"].to_s.split(",") & carried.keys).empty? ? known : {}
        end

        def change(what, before, after, sentence)
          entry = after || before
          Change.new(
            what: what,
            key: entry.key,
            place: entry.place,
            sentence: sentence,
            before: before&.to_h,
            after: after&.to_h
          )
        end

        def changed(before, after, convention)
          sentences = lost(before, after, convention) + edits(before, after)
          change("changed", before, after, sentences.join(" ")) if sentences.any?
        end

        def lost(before, after, convention)
          old, new = [before, after].map { |entry| convention.values_in(Address.new(entry.address)) }
          gone = old.keys - new.keys
          altered = (old.keys & new.keys).reject { |role| old[role] == new[role] }
          sentences = altered.map { |role| "Its #{role} was “#{old[role]}” and is “#{new[role]}”." }
          gone.any? ? ["It lost its #{gone.join(", ")}: clicks arrive without."] + sentences : sentences
        end

        def edits(before, after)
          names = {
            "pattern" => "click pattern",
            "tail" => "tail",
            "landing" => "landing address",
            "target" => "target"
          }
          sentences = names.filter_map do |fact, name|
            old, new = before.facts[fact].to_s, after.facts[fact].to_s
            next if old == new

            if new.empty?
              "Its #{name} is gone."
            else
              "Its #{name} was #{old.empty? ? "not set" : "changed"}#{" and is set now" if old.empty?}."
            end
          end
          if before.status != after.status
            sentences << "It was #{before.status.empty? ? "live" : before.status} and is #{after.status.empty? ? "live" : after.status}."
          end
          sentences
        end

        # A copy of an ad often keeps the name of the campaign it was copied from.
        def added(entry, before, convention)
          campaign = convention.value_in(Address.new(entry.address), "campaign")
          model = campaign && before.find { |other| copy_of?(entry, other, campaign, convention) }
          return change("new", nil, entry, "It was not there before.") unless model

          change(
            "copied",
            nil,
            entry,
            "It looks like a copy of “#{model.place}” and still names that one's campaign, “#{campaign}”, although it stands in “#{entry.facts["campaign"]}”."
          )
        end

        def copy_of?(entry, other, campaign, convention)
          entry.facts["campaign"] && other.facts["campaign"] &&
            entry.facts["campaign"] != other.facts["campaign"] &&
            entry.facts["ad"] == other.facts["ad"] && convention.value_in(Address.new(other.address), "campaign") == campaign
        end
      end
    end
  end
end
