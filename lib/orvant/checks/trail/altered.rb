# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds hops that change how a carrier's value is written, and pages whose script strips carriers from
      # their own address.
      class Altered < ChangeCheck
        describes "trail/altered", weight: "skews",
          why: "A value that is folded, cut or encoded twice on the way is another value in reports: one campaign becomes two.",
          fails: %w[http://skl.example/go?utm_campaign=Walks http://www.skerryline.example/walks?utm_campaign=walks 200],
          passes: %w[http://skl.example/go?utm_campaign=walks http://www.skerryline.example/walks?utm_campaign=walks 200]
        DEEDS = {
          "re-encoded" => "writes %s in another encoding",
          "folded" => "changes the letter case of %s",
          "cut" => "cuts %s short"
        }.freeze

        def findings = super + rewritten

        private

        def concerns?(fate, _index) = fate.fate == "altered" && fate.how != "replaced"

        def deeds(fates)
          fates.map { |fate| format(DEEDS.fetch(fate.how), subject.named(fate)) + " (“#{fate.before}” to “#{fate.after}”)" }.join(", ")
        end

        def harm(identifiers)
          identifiers ? "its clicks cannot be joined to their cost." : "reports count it as another value."
        end

        def action = "Hand the query on byte for byte."

        # A script that strips the query after the page has loaded is no hop; what tags that run later see is
        # up to their order.
        def rewritten
          return [] unless subject.own? && subject.trail.hops.last&.how == "history"

          gone = subject.trail.hops.last.params.select do |fate|
            fate.fate != "kept" && subject.watched?(fate.name)
          end
          gone.any? ? [stripped(gone)] : []
        end

        def stripped(fates)
          page = Address.new(subject.trail.hops.last.address).page
          names = fates.map(&:name)
          finding("A script on #{page} takes #{names.join(", ")} off its own address: tags that run after it record the visit as direct.",
            parameter: names.first,
            place: {
              "hop" => subject.trail.hops.size,
              "server" => subject.addresses.last.host,
              "parameters" => names
            },
            evidence: subject.lines + ["shown as #{subject.trail.final_address}"],
            root: "trail/altered history #{page}",
            remedy: Remedy.new(
              action: "Let the script wait until every tag has read the address.",
              at: "page",
              place: page
            ))
        end
      end
    end
  end
end
