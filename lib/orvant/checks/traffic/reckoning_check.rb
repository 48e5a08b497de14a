# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # The base of checks on a campaign's claims.
      class ReckoningCheck < Check
        # line: Orvant::Traffic::Reckoning::Line · thresholds: Convention::Thresholds · reasons: Array of
        # words, what is known that may explain it.
        Subject = Struct.new(:line, :thresholds, :reasons, keyword_init: true)

        private

        def line = subject.line

        def report(message, likely:)
          said = likely.values
          finding("#{message}#{" Likely: #{said.join("; ")}." if said.any?}",
            place: {"network" => line.network, "campaign" => line.campaign},
            evidence: ["#{line.clicks} clicks, #{line.sessions} sessions, #{line.claimed} claimed, #{line.orders} orders"],
            root: "#{self.class.code} #{line.network} #{line.campaign}",
            remedy: Remedy.new(
              action: "#{deed}#{": likely #{said.first}" if said.any?}.",
              at: "settings",
              place: line.network
            ))
        end
      end
    end
  end
end
