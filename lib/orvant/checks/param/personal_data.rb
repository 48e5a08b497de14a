# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds mail addresses, telephone numbers and names anywhere on an address.
      class PersonalData < Check
        describes "param/personal-data", weight: "breaks",
          why: "What stands in an address is kept by every server, report and browser on the way; many analytics services delete the data of whoever sends them names or addresses.",
          fails: "utm_source=island-letter&utm_medium=email&guest=kari%40post.example", passes: "utm_source=island-letter&utm_medium=email&guest=4711"
        reads :faults, :required, :names, :parts

        KINDS = {
          "mail" => "a mail address",
          "phone" => "a telephone number",
          "name" => "a person's name"
        }.freeze

        def findings = in_values + in_others + in_parts

        private

        def in_values
          subject.unsound.select { |one| one.reading.faults.include?(:personal) }.map do |one|
            role = one.reading.role
            report(
              one.reading.personal,
              "#{one.reading.pair.name}=…",
              subject.pair_at(one.number),
              place: {"role" => role.name, "pair" => one.number},
              removable: !subject.required?(role)
            )
          end
        end

        def in_others
          subject.foreign.filter_map do |number, one|
            pair = subject.pair_at(number)
            report(one.personal, "#{pair.name}=…", pair, place: {"pair" => number}) if one.personal
          end
        end

        # User, path and fragment cannot be taken away without breaking the link.
        def in_parts
          subject.personal_parts.map do |part, hit|
            report(hit, "the #{part}", nil, place: {"part" => part}, removable: false)
          end
        end

        def report(hit, where, pair, place:, removable: true)
          finding("#{where} holds #{KINDS[hit.kind]}: it is handed to every server and report on the way#{", where it must not be" if hit.kind != "name"}.",
            parameter: pair&.name,
            place: place.merge("personal" => hit.kind),
            evidence: [Orvant::PersonalData::MASK],
            edits: ([Edit.new(pair: pair, remove: true)] if pair && removable),
            root: "param/personal-data #{pair&.name || place["part"]}",
            remedy: Remedy.new(
              at: "sighting",
              action: "Take #{KINDS[hit.kind]} out of #{pair&.name || "the #{place["part"]}"}."
            ))
        end
      end
    end
  end
end
