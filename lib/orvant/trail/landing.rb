# frozen_string_literal: true

module Orvant
  class Trail
    # Judges the page on which a trail landed.
    module Landing
      # A page that says less than this, in characters, says too little to be compared.
      TELLING = 20
      # A page of no more words than this shows what stands in its frames.
      FEW = 10

      class << self
        # A page that says “not found” with status 200 is broken, whatever its status says, where nothing else
        # stands there or the host says the very same to an address that cannot exist. What shows nobody what
        # was promised in another way stands in its facts (NoPage).
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
            fault(judged, markup, probe) if trail.landed?
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
            .merge(framed(trail, markup))
        end

        private

        # A page of few words that holds frames is what stands in them.
        def framed(trail, markup)
          return {} if markup.frames.empty? || markup.text.split.size > FEW

          own = Address.of(trail.final_address)
          hosts = markup.frames.filter_map { |text| host_of(text, own) }.uniq - [own.host]
          hosts.empty? ? {} : {"frames" => hosts}
        end

        def host_of(text, base)
          Address::Reference.resolve(text, base.without_fragment).host
        rescue Error::UnusableAddress
          nil
        end

        def canonical(markup, address)
          markup.canonical &&
            Address::Reference.resolve(markup.canonical, Address.of(address).without_fragment).raw
        rescue Error::UnusableAddress
          markup.canonical[0, Cut::CELL]
        end

        def fault(judged, markup, probe)
          landing = Address.of(judged.final_address)
          # Every host has a home page, even one that shows it for any address.
          nowhere = (probe.call(landing) if probe && !["", "/"].include?(landing.path))
          found = NoPage.new(judged, markup, nowhere).found
          if found && found.kind != "missing"
            return judged.landing = judged.landing.merge("no_page" => found.to_h)
          end

          reason = missing(judged, markup, nowhere, found, probe)
          judged.outcome, judged.reason = "broken", reason if reason
        end

        # Two witnesses of three: its words, nothing on it that other own pages lack, the same answer to an
        # address that cannot exist.
        def missing(judged, markup, nowhere, found, probe)
          return "The landing page answers #{judged.status} but says “#{found.said}”." if found
          return unless nowhere && same?(judged, markup, nowhere)

          said = [markup.title, markup.heading].find { |text| text.match?(NoPage::SAYINGS["missing"]) }
          return "The landing page answers #{judged.status} but says “#{said[0, Cut::LINE]}”." if said

          if elsewhere_at_home?(judged, markup, probe)
            "The landing page answers #{judged.status} but says what the host says to any address that does not exist."
          end
        end

        # A small site may say the same everywhere.
        def elsewhere_at_home?(judged, markup, probe)
          home = probe.home(Address.of(judged.final_address))
          home.landed? && home.markup.words != markup.words
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
