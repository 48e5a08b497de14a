# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds pages that send visitors on by script, meta refresh or a `Refresh` header.
      class ScriptHop < Check
        describes "trail/script-hop", weight: "skews",
          why: "A page that moves visitors on itself becomes the referrer of their visit, or leaves it without one, takes longer, and loses those whose browser runs no scripts.",
          fails: %w[http://www.skerryline.example/old script:http://www.skerryline.example/new 200],
          passes: %w[http://www.skerryline.example/old http://www.skerryline.example/new 200]
        WAYS = {"script" => "a script", "meta" => "a meta refresh", "refresh" => "a Refresh header"}.freeze

        def findings
          return [] unless subject.own?

          # A page that is come to again is told once.
          subject.trail.hops.each_with_index.filter_map { |hop, index|
            report(hop, index) if WAYS.key?(hop.how)
          }.uniq(&:root)
        end

        private

        def report(hop, index)
          page = subject.addresses[index].page
          finding("Hop #{index + 1}, at #{page}, passes visitors on by #{WAYS.fetch(hop.how)}: #{referred(index + 1)}, and some get lost here.",
            place: {"hop" => index + 1, "server" => subject.addresses[index].host},
            evidence: subject.lines,
            root: "trail/script-hop #{page}",
            remedy: Remedy.new(
              action: "Redirect by status 301 or 302 instead, and hand the query on.",
              at: "server",
              place: page
            ))
        end

        # What becomes of the referrer, where the next hop was asked for.
        def referred(index)
          following = subject.trail.hops[index]
          return "their referrer becomes this page" if following.nil? || following.referrer

          "they arrive without a referrer"
        end
      end
    end
  end
end
