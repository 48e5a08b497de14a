# frozen_string_literal: true

module Orvant
  class Trail
    # Judges the page on which a trail landed.
    module Landing
      NOT_FOUND = /
        \b(page|site|offer|address|404)\b.{0,40}\bnot\s+(be\s+)?found\b | \bnot\s+found\b | \berror\s+404\b |
        \A\W*404\W*\z |
        \bno\s+longer\s+(available|exists?)\b | \bdoes(\s+not|n.t)\s+exist\b
      /xi
      # A page that says less than this, in characters, says too little to be compared.
      TELLING = 20

      class << self
        # A page that says “not found” with status 200 is broken, whatever its status says; so is one that
        # says the very same as the host says to an address that cannot exist.
        #
        # @param trail [Trail] with its body
        # @param probe [#call, nil] an Address => the Trail of an address on its host that cannot exist, or
        #   nil
        # @return [Trail] the same with `landing`, or broken with the reason
        def judge(trail, probe: nil)
          return trail if trail.landing || !trail.answered?

          markup = trail.markup
          trail.dup.tap do |judged|
            judged.landing = facts(trail, markup)
            reason = trail.landed? ? fault(trail, markup, probe) : nil
            judged.outcome, judged.reason = "broken", reason if reason
          end
        end

        # @param trail [Trail]
        # @param markup [Page::Markup]
        # @return [Hash{String => Object}] title, canonical (absolute), noindex, referrer_policy
        def facts(trail, markup)
          headers = trail.headers || {}
          {"title" => markup.title, "canonical" => canonical(markup, trail.final_address),
           "noindex" => (markup.robots + headers["x-robots-tag"].to_s.downcase.split(/[\s,:]+/)).intersect?(%w[noindex none]),
           "referrer_policy" => markup.referrer_policy || Page::ReferrerPolicy.of_header(headers["referrer-policy"])}
        end

        private

        def canonical(markup, address)
          markup.canonical &&
            Address::Reference.resolve(markup.canonical, Address.of(address).without_fragment).raw
        rescue Error::UnusableAddress
          markup.canonical[0, Cut::CELL]
        end

        def fault(trail, markup, probe)
          said = [markup.title, markup.heading].find { |text| text.match?(NOT_FOUND) }
          return "The landing page answers #{trail.status} but says “#{said[0, Cut::LINE]}”." if said

          landing = Address.of(trail.final_address)
          # Every host has a home page, even one that shows it for any address.
          nowhere = (probe.call(landing) if probe && !["", "/"].include?(landing.path)) or return
          if same?(trail, markup, nowhere)
            "The landing page answers #{trail.status} but says what the host says to any address that does not exist."
          end
        end

        def same?(trail, markup, nowhere)
          unless nowhere.landed? && markup.text.length >= TELLING && markup.words == nowhere.markup.words
            return false
          end

          # Where impossible addresses are sent to a real page, that page itself is sound: only being sent
          # there is not.
          return true if nowhere.hops.size == 1
          return false unless trail.hops.size > 1

          final = Address.of(trail.final_address)
          Address.of(nowhere.final_address).page == final.page &&
            Address.of(trail.hops[-2].address).host == final.host
        end
      end
    end
  end
end
