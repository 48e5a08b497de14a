# frozen_string_literal: true

module Orvant
  module Inventory
    # Crawls an advertiser's own site: its sitemaps, then its links to a depth, as robots.txt permits. Runs
    # inside an Async reactor.
    class Site
      # pages: the most that are read · depth: links from a starting page · delay: the longest crawl-delay
      # that is kept, in seconds.
      Bounds = Struct.new(:pages, :depth, :delay, keyword_init: true) do
        def self.usual = new(pages: 500, depth: 4, delay: 10.0)
      end
      MOST_SITEMAPS = 50

      # @param door [Net::Door]
      # @param own [Hosts] the advertiser's hosts; only those are crawled
      # @param carriers [#include?] names of campaign parameters
      # @param bounds [Bounds]
      # @param signatures [Array<Signal::Signature>] of tags that are looked for in the markup of its pages
      # @param progress [#call] pages read so far, pages known so far; answers false to stop
      def initialize(door, own:, carriers:, bounds: Bounds.usual, owner: "", signatures: [], progress: ->(_, _) { true }, rest: method(:sleep))
        @door = door
        @reader = SiteReader.new(door, signatures: signatures)
        @own = own
        @carriers = carriers
        @bounds = bounds
        @owner = owner
        @progress = progress
        @rest = rest
        @robots = {}
        @known = {}
        @collected = Collected.new
      end

      # @param start [Address]
      # @return [Collected] sightings of links out and of links between own pages that carry campaign
      #   parameters; `pages` as read
      def crawl(start)
        unless @own.cover?(start.host)
          raise Error::Refused, "#{start.host} is no own host of the workspace; only own sites are crawled."
        end

        queue = [[start, 0]] + sitemap_pages(start).map { |address| [address, 1] }
        queue.select! { |address, _| know(address) }
        work(queue)
        @collected
      end

      private

      def work(queue)
        while (address, depth = queue.shift) && @collected.pages.size < @bounds.pages
          next unless permitted?(address)

          queue.concat(visit(address, depth))
          break unless @progress.call(@collected.pages.size, @collected.pages.size + queue.size)
        end
        return if queue.empty?

        @collected.partial = true
        more =
          if queue.size == 1
            "1 more page is known and was not read"
          else
            "#{queue.size} more pages are known and were not read"
          end
        @collected.notes << "#{more}: #{@collected.pages.size} were read, #{@bounds.pages} are the most."
      end

      def know(address)
        form = address.without_fragment.normal_form
        !@known.key?(form) && (@known[form] = true)
      end

      def permitted?(address)
        robots = robots_of(address)
        unless robots.allow?(address)
          @collected.apart << Apart.new(
            address: address.raw,
            text: "",
            reason: "robots.txt",
            place: address.host
          )
          return false
        end

        @rest.call([robots.delay, @bounds.delay].min) if robots.delay.positive?
        true
      end

      def robots_of(address)
        @robots[address.authority] ||= begin
          answer = fetch("#{address.scheme}://#{address.authority}/robots.txt")
          Robots.of(answer&.status, answer&.body.to_s)
        end
      end

      # robots.txt and sitemaps may be redirected (RFC 9309, 2.3.1.2).
      def fetch(text) = Trail::Follower.new(@door).follow(text).then { |trail| trail if trail.status }

      def sitemap_pages(start)
        todo = robots_of(start).sitemaps
        todo = ["#{start.scheme}://#{start.authority}/sitemap.xml"] if todo.empty?
        seen = []
        addresses = []
        while (text = todo.shift) && seen.size < MOST_SITEMAPS
          next if seen.include?(text)

          seen << text
          sitemap = sitemap(text) or next
          addresses.concat(sitemap.addresses)
          todo.concat(sitemap.sitemaps)
        end
        addresses.uniq.first(@bounds.pages).filter_map { |address| own_address(address) }
      end

      def sitemap(text)
        answer = own_address(text) && fetch(text)
        Sitemap.new(answer.body) if answer&.landed?
      end

      def own_address(text)
        address = Address.parse(text)
        address if @own.cover?(address.host)
      rescue Error::UnusableAddress
        nil
      end

      # @return [Array<Array(Address, Integer)>] pages to go on with
      def visit(address, depth)
        read = @reader.read(address, depth: depth)
        @collected.pages << read.page
        read.links.each { |link, anchor| take(link, anchor, read) }
        return [] if depth >= @bounds.depth || read.page.nofollow

        read.links.filter_map do |link, anchor|
          plain = link.without_fragment
          [plain, depth + 1] if @own.cover?(link.host) && !anchor.rel.include?("nofollow") && know(plain)
        end
      end

      def take(link, anchor, read)
        carries = link.pairs.any? { |pair| @carriers.include?(pair.name) }
        return if @own.cover?(link.host) && !carries

        facts = {
          "rel" => anchor.rel.join(" "),
          "referrerpolicy" => anchor.referrerpolicy,
          "link" => anchor.image ? "picture" : ""
        }.reject do |_, value|
          value.empty?
        end
        @collected.items << Sighting.new(address: link,
          kind: "page",
          place: read.seen.page,
          owner: @owner,
          page: read.seen,
          text: anchor.text,
          part: "link #{anchor.position}", line: anchor.position, facts: facts.empty? ? nil : facts)
      end
    end
  end
end
