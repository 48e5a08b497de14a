# frozen_string_literal: true

require "digest"
require "device_detector"
require "zlib"

module Orvant
  module Traffic
    # Builds session rows from access logs. A visitor is an address and a user agent, known by a digest alone;
    # a session ends after more than 30 minutes without a page view, at other campaign values and at another
    # click identifier.
    class Sessions
      PAUSE = 30 * 60
      # A redirect answered so soon before a page of the same visitor belongs to it, in seconds.
      REDIRECT = 2
      REDIRECTS = [301, 302, 303, 307, 308].freeze
      # What no person reads as a page.
      NO_PAGE = %r{\.(?:js|mjs|css|png|jpe?g|gif|webp|avif|svg|ico|woff2?|ttf|eot|otf|mp[34]|webm|ogg|wav|pdf|zip|gz|txt|xml|json|map|csv|wasm|webmanifest|rss|atom)\z|\A/(?:api|graphql|rest|ajax|rpc|wp-json|cgi-bin|\.well-known)(?:/|\z)}i
      # So many page views within so many seconds are no person's.
      HASTE = [30, 30].freeze
      MOST_LINE = 1_048_576
      MOST_AGENTS = 20_000
      # Hosts that the logs of one advertiser are of.
      MOST_HOSTS = 1_000
      # Lines that cannot be read and are named one by one.
      MOST_UNREAD = 20
      ROLES = %w[source medium campaign content term].freeze
      GZIP = "\x1F\x8B".b
      # What its rows hold, and the names under which SessionTable knows the columns.
      COLUMNS = {date: "date",
                 source: "source",
                 medium: "medium",
                 campaign: "campaign",
                 content: "content",
                 term: "term",
                 landing: "landing page",
                 referrer: "referrer",
                 device: "device",
                 host: "host",
                 click: "click",
                 sessions: "sessions",
                 conversions: "conversions",
                 pages: "pages",
                 engaged: "engaged",
                 event: "event",
                 reached: "own reached"}.freeze
      # How far a visit went that came to none of the workspace's steps.
      LANDED = ["landing", "a second page"].freeze

      # One visitor's session while it lasts.
      Open = Struct.new(
        :begun,
        :last,
        :pages,
        :values,
        :click,
        :landing,
        :referrer,
        :host,
        :device,
        :goals,
        :step,
        :offset,
        keyword_init: true
      )

      # What was counted on the way. requests, pages: lines · bots, hasty: sessions and requests set apart ·
      # unread: lines.
      Counts = Struct.new(:lines, :unread, :bots, :hasty, :pages, :sessions, keyword_init: true)

      # @param convention [Convention]
      # @param goals [Watching] its goals are conversions
      # @param host [String] of the pages, where the log names none
      def initialize(convention, goals: Watching.new, host: "")
        @convention = convention
        @goals = goals
        @host = host
        @log = SortedLog.new
        @hosts = Set.new
        @agents = Memory.new(MOST_AGENTS)
        @counts = Counts.new(lines: 0, unread: 0, bots: 0, hasty: 0, pages: 0, sessions: 0)
        @unread = []
      end

      # @param row [Row]
      # @return [Array<Object>] what stands under COLUMNS, days as ISO 8601
      def self.cells(row)
        COLUMNS.keys.map do |name|
          row.public_send(name).then { |cell| cell.is_a?(Date) ? cell.iso8601 : cell }
        end
      end

      attr_reader :counts
      # @return [Array<String>] the first lines that could not be read, as sentences
      attr_reader :unread

      # @param path [String] a log, packed or not
      # @raise [Error::UnusableTable] where it cannot be opened
      def read(path)
        number = 0
        lines_of(path) { |line| take(line, path, number += 1) }
      rescue SystemCallError => error
        raise Error::UnusableTable, "#{path} cannot be read: #{error.message[/\A[^@]+/].strip}."
      rescue Zlib::Error
        @unread << "#{path}: it is packed and ends in the middle; what could be unpacked was read."
      end

      # @yieldparam row [Row] sessions of one day that say the same, together; in order of days
      def each_row(&block)
        @open = {}
        @lent = {}
        @days = {}
        @log.each { |fields| page(fields, &block) }
        @open.each_value { |session| close(session) }
        give(@days.keys, &block)
      end

      private

      def lines_of(path, &block)
        packed = File.binread(path, 2) == GZIP
        io = packed ? Zlib::GzipReader.open(path) : File.open(path, "rb")
        io.each_line("\n", MOST_LINE, &block)
      ensure
        io&.close
      end

      def take(line, path, number)
        @counts.lines += 1
        text = line.force_encoding(Encoding::UTF_8)
        text = text.scrub("�") unless text.valid_encoding?
        return if text.strip.empty?

        request = (text.bytesize < MOST_LINE && !text.include?("\0")) ? LogLine.read(text.chomp) : nil
        request ? keep(request) : refuse(path, number, text)
      end

      def refuse(path, number, text)
        @counts.unread += 1
        if @unread.size < MOST_UNREAD
          @unread << "#{File.basename(path)}, line #{number}: #{(text.bytesize < MOST_LINE) ? "this is no line of an access log: #{text[0, Cut::QUOTE].gsub(/[[:cntrl:]]/, " ")}" : "the line holds more than #{MOST_LINE / 1_048_576} MB"}"
        end
      end

      # Only what sessions are built from is kept; who asked is a digest from here on.
      def keep(request)
        return unless request.method == "GET"

        path = request.target[/\A[^?#]*/]
        return if NO_PAGE.match?(path) || (request.type && !request.type.match?(/html/i))

        kind = agent(request.agent)
        return @counts.bots += 1 if kind == "bot"

        named = request.host.empty? ? @host : request.host
        @hosts << named if @hosts.size < MOST_HOSTS
        @log.add([
          request.time.to_i,
          request.time.utc_offset,
          Digest::SHA256.hexdigest(request.visitor)[0, Cut::VISITOR],
          named,
          request.target,
          request.status,
          request.referrer[0, Cut::ADDRESS],
          kind
        ])
      end

      # @return [String] `bot`, or the kind of device
      def agent(text)
        @agents.fetch(text) do
          detected = DeviceDetector.new(text.empty? ? "-" : text)
          if text.empty? || detected.bot?
            "bot"
          else
            {
              "smartphone" => "phone",
              "phablet" => "phone",
              "feature phone" => "phone",
              "tablet" => "tablet"
            }.fetch(detected.device_type.to_s, "desktop")
          end
        end
      end

      # A visit as it stands in one request.
      Seen = Struct.new(
        :at,
        :offset,
        :visitor,
        :host,
        :target,
        :status,
        :referrer,
        :device,
        :values,
        :click,
        keyword_init: true
      )

      def page(fields, &block)
        seen = seen(fields)
        expire(seen.at, &block)
        lent = @lent[seen.visitor]
        return lend(seen, lent) if seen.status >= 400 || REDIRECTS.include?(seen.status)

        borrow(seen, lent)
        view(seen)
      end

      def seen(fields)
        at, offset, visitor, host, target, status, referrer, device = fields
        path = target.start_with?("/") ? target : "/#{target}"
        address = Address.new("http://#{host.empty? ? "log.invalid" : host}#{path}")
        Seen.new(
          at: at.to_i,
          offset: offset.to_i,
          visitor: visitor,
          host: host,
          target: target,
          status: status.to_i,
          referrer: external(referrer, host),
          device: device,
          values: @convention.values_in(address).slice(*ROLES)
            .transform_values { |value| value.delete("\0") }.reject { |_, value| value.empty? },
          click: click(address)
        )
      end

      def click(address)
        @identifiers ||= @convention.identifiers.map(&:parameter)
        return "" if @identifiers.empty? || address.query.nil?

        found = address.pairs.find { |pair| @identifiers.include?(pair.name) && !pair.value.to_s.empty? }
        found ? "#{found.name}=#{found.value}" : ""
      end

      # A visit that comes from an own host goes on, unless another log holds its beginning: then it was cut
      # in two there. Of a log that names no host nobody can tell.
      def external(referrer, host)
        named = referrer.to_s[%r{\Ahttps?://([^/?#:]+)}i, 1].to_s.downcase
        goes_on = named == host || (@convention.own_hosts.cover?(named) && logged?(named))
        goes_on ? "" : named
      end

      def logged?(host) = @hosts.include?("") || @hosts.include?(host)

      # What a redirect or a failed request says of where its visitor came from is lent to the page that
      # follows. A redirect that nothing follows is a page view of its own.
      def lend(seen, lent)
        settle(lent, before: seen) if lent
        borrow(seen, lent) if lent && REDIRECTS.include?(lent.status) && seen.at - lent.at <= REDIRECT
        @lent[seen.visitor] = seen
      end

      def borrow(seen, lent)
        return unless lent

        @lent.delete(seen.visitor)
        redirect = REDIRECTS.include?(lent.status)
        near = seen.at - lent.at <= (redirect ? REDIRECT : PAUSE)
        return (view(lent) if redirect) unless near
        return if !redirect && @open.key?(seen.visitor)

        seen.values = lent.values if seen.values.empty?
        seen.click = lent.click if seen.click.empty?
        seen.referrer = lent.referrer if seen.referrer.empty?
      end

      def settle(lent, before:)
        view(lent) if REDIRECTS.include?(lent.status) && before.at - lent.at > REDIRECT
      end

      def view(seen)
        session = @open[seen.visitor]
        session = start(seen, session) if session.nil? || another?(session, seen)
        session.last = [session.last, seen.at].max
        session.pages += 1
        @counts.pages += 1
        page = "#{seen.host}#{seen.target[/\A[^?#]*/]}"
        @goals.goals_of(page).each { |goal| session.goals[goal.name] = true }
        session.step = [session.step, @goals.step_of(page)].max
      end

      def another?(session, seen)
        return true if seen.at - session.last > PAUSE
        return true if seen.values.any? && seen.values != session.values

        !seen.click.empty? && seen.click != session.click
      end

      def start(seen, before)
        close(before) if before
        @open[seen.visitor] = Open.new(
          begun: seen.at,
          last: seen.at,
          pages: 0,
          values: seen.values,
          click: seen.click,
          landing: seen.target[/\A[^?#]*/],
          referrer: seen.referrer,
          host: seen.host,
          device: seen.device,
          goals: {},
          step: 0,
          offset: seen.offset
        )
      end

      # Sessions that can take nothing more are closed, and days that can take no session are given.
      def expire(now, &block)
        return if @expired && now - @expired < 60

        @expired = now
        @open.delete_if { |_, session| (now - session.last > PAUSE) && close(session) }
        @lent.delete_if do |_, lent|
          now - lent.at > PAUSE && (settle(lent, before: Seen.new(at: now)) || true)
        end
        give(@days.keys.select { |day| (Time.at(now).utc.to_date - day) > 2 }, &block)
      end

      def close(session)
        if session.pages >= HASTE[0] &&
            (session.last - session.begun) < session.pages * HASTE[1] / HASTE[0].to_f
          return @counts.hasty += 1
        end

        @counts.sessions += 1
        day = Time.at(session.begun).getlocal(session.offset).to_date
        add(
          day,
          key(session, session.goals.keys.first),
          [1, session.goals.empty? ? 0 : 1, session.pages, (session.pages > 1) ? 1 : 0]
        )
        # A visit with several conversions is one visit.
        session.goals.keys.drop(1).each { |event| add(day, key(session, event), [0, 1, 0, 0]) }
      end

      def add(day, key, figures)
        sums = (@days[day] ||= {})[key] ||= [0, 0, 0, 0]
        figures.each_with_index { |count, index| sums[index] += count }
      end

      def key(session, event)
        [
          *session.values.values_at(*ROLES).map(&:to_s),
          session.landing,
          session.referrer,
          session.device,
          session.host,
          session.click[/\A[^=]*/],
          event.to_s,
          reached(session)
        ]
      end

      def reached(session)
        return "" if @goals.steps.empty?

        if session.step.positive?
          @goals.steps[session.step - 1].name
        else
          LANDED[(session.pages > 1) ? 1 : 0]
        end
      end

      def give(days)
        days.sort.each do |day|
          @days.delete(day).each do |values, (sessions, conversions, pages, engaged)|
            source, medium, campaign, content, term, landing, referrer, device, *others = values
            host, click, event, reached = others
            own = {"event" => event, "reached" => reached}.reject { |_, said| said.empty? }
            yield Row.new(own: own,
              date: day,
              source: source,
              medium: medium,
              campaign: campaign,
              content: content,
              term: term,
              landing: landing,
              referrer: referrer,
              device: device,
              country: "",
              language: "",
              host: host,
              visitor: "",
              click: click,
              sessions: sessions,
              conversions: conversions,
              revenue: 0,
              cost: 0,
              pages: pages,
              engaged: engaged,
              events: 0)
          end
        end
      end
    end
  end
end
