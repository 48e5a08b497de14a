# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds mail addresses, telephone numbers and names anywhere on an address.
      class PersonalData < Check
        describes "param/personal-data", weight: "breaks",
          why: "What stands in an address is kept by every server, report and browser on the way; many analytics services delete the data of whoever sends them names or addresses.",
          fails: "utm_source=island-letter&utm_medium=email&guest=kari%40post.example", passes: "utm_source=island-letter&utm_medium=email&guest=4711"

        KINDS = {"mail" => "a mail address", "phone" => "a telephone number", "name" => "a person's name"}.freeze

        def findings = in_values + in_others + in_parts

        private

        def settings = subject.convention.personal_data

        def in_values
          subject.unsound.select { |one| one.reading.faults.include?(:personal) }.map do |one|
            role = one.reading.role
            needed = role.required?(kind: subject.kind, channel: subject.channel(subject.mended).channel, paid: subject.paid?)
            report(one.reading.personal, "#{one.reading.pair.name}=…", subject.address.pairs[one.number], place: {"role" => role.name, "pair" => one.number}, removable: !needed)
          end
        end

        def in_others
          return [] unless subject.seen.query

          subject.foreign_pairs.filter_map do |pair|
            hit = settings.find(pair.raw_value, field: pair.name)
            report(hit, "#{pair.name}=…", pair, place: {"pair" => subject.address.pairs.index(pair)}) if hit
          end
        end

        # User, path and fragment cannot be taken away without breaking the link.
        def in_parts
          {"user part" => subject.seen.authority[/\A.*@/m], "path" => subject.seen.path, "fragment" => subject.address.fragment}.filter_map do |part, text|
            hit = text && text.split(%r{[/?&=]}).filter_map { |stretch| settings.find(stretch) unless stretch.empty? }.first
            report(hit, "the #{part}", nil, place: {"part" => part}, removable: false) if hit
          end
        end

        def report(hit, where, pair, place:, removable: true)
          finding("#{where} holds #{KINDS[hit.kind]}: it is handed to every server and report on the way#{", where it must not be" if hit.kind != "name"}.",
            parameter: pair&.name, place: place.merge("personal" => hit.kind), evidence: [Orvant::PersonalData::MASK], edits: ([Edit.new(pair: pair, remove: true)] if pair && removable),
            root: "param/personal-data #{pair&.name || place["part"]}", remedy: Remedy.new(at: "sighting", action: "Take #{KINDS[hit.kind]} out of #{pair&.name || "the #{place["part"]}"}."))
        end
      end
    end
  end
end
