# frozen_string_literal: true

module Orvant
  module Inventory
    # Reads single pages into what a crawl and a look at others' pages keep of them.
    class SiteReader
      # What is kept of a page: more of a kind says nothing new.
      MOST_FORMS = 50
      MOST_FIELDS = 100
      MOST_HIDDEN = 50
      MOST_SCRIPTS = 100

      # A page, and its links: pairs of the absolute Address and the Anchor; `seen`: the address of the page
      # itself.
      Read = Struct.new(:page, :links, :seen, keyword_init: true)

      # @param door [Net::Door]
      # @param signatures [Array<Signal::Signature>] of tags that are looked for in the markup
      def initialize(door, signatures: [])
        @follower = Trail::Follower.new(door)
        @signatures = signatures
      end

      # @param address [Address]
      # @param depth [Integer] links from the start
      # @return [Read]
      def read(address, depth: 0)
        trail = @follower.follow(address.raw)
        page = SitePage.new(
          address: address,
          status: trail.status,
          depth: depth,
          links: 0,
          forms: [],
          scripts: [],
          tags: [],
          reason: trail.reason
        )
        seen = Address.new(trail.final_address)
        return Read.new(page: page, links: [], seen: seen) unless trail.landed? && html?(trail)

        markup = trail.markup
        links = resolved(markup, seen)
        describe(page, trail, markup, links, base(markup, seen))
        page.tags = @signatures.select { |one| one.installations(markup, seen).any? }.map(&:tag)
        Read.new(page: page, links: links, seen: seen)
      end

      private

      def html?(trail)
        %i[html xml].include?(Page::Type.of(trail.status, trail.headers.to_h, trail.body.to_s))
      end

      def describe(page, trail, markup, links, base)
        facts = Trail::Landing.facts(trail, markup)
        page.title = facts["title"]
        page.canonical = facts["canonical"]
        page.noindex = facts["noindex"]
        page.nofollow = markup.robots.intersect?(%w[nofollow none])
        page.referrer_policy = facts["referrer_policy"]
        page.links = links.size
        page.forms = markup.forms.first(MOST_FORMS).map { |form|
          {
            "action" => form.action[0, Cut::CELL],
            "fields" => form.fields.first(MOST_FIELDS),
            "hidden" => form.hidden.first(MOST_HIDDEN).to_h
          }
        }
        sources = markup.script_sources.first(MOST_SCRIPTS)
        page.scripts = sources.filter_map { |source| absolute(source, base)&.raw }
      end

      def base(markup, seen)
        (markup.base && absolute(markup.base, seen.without_fragment)) || seen.without_fragment
      end

      def resolved(markup, seen)
        from = base(markup, seen)
        markup.anchors.filter_map do |anchor|
          next if Apart.reason(anchor.href, anchor.text)

          address = absolute(anchor.href, from) and [address, anchor]
        end
      end

      def absolute(reference, base)
        Address::Reference.resolve(reference, base)
      rescue Error::UnusableAddress
        nil
      end
    end
  end
end
