# frozen_string_literal: true

module Orvant
  module Checks
    module Page
      # Finds own pages that hide the referrer from own hosts.
      class ReferrerPolicy < Check
        describes "page/referrer-policy", weight: "skews",
          why: "Where a page hides the referrer, the next host of your own cannot tell that the visitor came from you, and starts a direct visit.",
          fails: {"facts" => {"referrer_policy" => "no-referrer"}}, passes: {"facts" => {"referrer_policy" => "strict-origin-when-cross-origin"}}
        HIDING = %w[no-referrer same-origin].freeze

        def findings = [whole_page, single_links].compact

        private

        def whole_page
          policy = subject.facts["referrer_policy"]
          return unless HIDING.include?(policy)
          return if policy == "same-origin" && subject.convention.own_hosts.names.size < 2

          report(
            "The page's referrer policy is #{policy}: other hosts of your own see its visitors as direct.",
            "referrer-policy: #{policy}",
            "Set the referrer policy to strict-origin-when-cross-origin."
          )
        end

        def single_links
          here = Address.new(subject.visit.final_address).host
          hiding = subject.facts["unreferred"].to_a.select do |text|
            (host = Address.new(text).host) != here && subject.convention.own_hosts.cover?(host)
          end
          return if hiding.empty? || HIDING.include?(subject.facts["referrer_policy"])

          report(
            "#{(hiding.size == 1) ? "A link" : "#{hiding.size} links"} to other hosts of your own hide the referrer (noreferrer): those hosts see the visitors as direct.",
            hiding.first,
            "Take noreferrer off links to own hosts."
          )
        end

        def report(message, line, action)
          finding(message,
            place: {"page" => subject.visit.page},
            evidence: subject.lines + [line],
            root: "page/referrer-policy #{action} #{Address.new(subject.visit.final_address).host}",
            remedy: Remedy.new(action: action, at: "page", place: subject.visit.page))
        end
      end
    end
  end
end
