# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # Finds tags that send to an account that is not one of those permitted.
      class Account < TagCheck
        describes "tag/account", weight: "breaks",
          why: "Visits that are sent to another account stand in a report that nobody reads, and are missing from the one that people do.",
          fails: {
            "markup" => ["gullwatch"],
            "signals" => [["view", {"account" => "SK-999"}]]
          }, passes: {"markup" => ["gullwatch"], "signals" => ["view"]}
        looks_at :goal_pages
        asks :expected_tags

        def findings = subject.expected.select { |one| one.accounts.any? }.flat_map { |one| wrong(one) }

        private

        def wrong(expected)
          (found(expected.tag) - expected.accounts).map do |account|
            signals = subject.signals(expected.tag).select { |signal| signal.account == account }
            report(expected.tag,
              "#{name(expected.tag)} #{signals.any? ? "sends" : "is set up to send"} to the account “#{account}” on this page; expected is #{expected.accounts.map { |one| "“#{one}”" }.join(" or ")}.",
              action: "Write #{expected.accounts.first} in the place of #{account} for #{name(expected.tag)}.",
              evidence: subject.lines(signals),
              setting: "account #{account}",
              correction: expected.accounts.first)
          end
        end

        def found(tag)
          said = subject.signals(tag).reject(&:unreadable?)
          standing = subject.visit.installations.to_a.select { |one| one.tag == tag }
          (said + standing).filter_map(&:account).reject(&:empty?).uniq
        end
      end
    end
  end
end
