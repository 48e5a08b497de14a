# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # The base of checks on rows whose referrer is one of the advertiser's own stations.
      class ReferralCheck < CauseCheck
        def self.concerns?(subject) = !subject.value("referrer").empty? && subject.value("medium").empty?

        def findings
          host = subject.value("referrer")
          return [] unless hosts.cover?(host)

          [caused(cause,
            message(host),
            becomes: Orvant::Traffic::NO_VISIT,
            root: "#{self.class.code} #{host}",
            remedy: Remedy.new(
              action: action(host),
              value: host,
              at: "settings",
              place: "Analytics settings"
            ))]
        end
      end
    end
  end
end
