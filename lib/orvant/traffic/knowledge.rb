# frozen_string_literal: true

module Orvant
  module Traffic
    # What is known beside the rows: the convention, and the links by where they land and what they carry.
    class Knowledge
      # How many sets of links are remembered.
      MOST_TOLD = 10_000

      # A burst is more than so many times the usual, within so many days of a sending; usual is what at least
      # so many days show.
      BURST_TIMES = 3
      BURST_DAYS = 3
      FEW_DAYS = 5
      # Nothing that figures tell is certain.
      LIKELIHOODS = (0.05..0.99)
      # sessions: of the day · median: of the page's days · likelihood: the share beyond it.
      Burst = Struct.new(:sessions, :median, :likelihood, keyword_init: true)

      attr_reader :convention, :facts

      # @param convention [Convention]
      # @param facts [Array<LinkFact>]
      # @param campaigns [Hash{String => Integer}] sessions by campaign, over all sources, as rows spell it
      # @param history [Hash{String => Hash{Date => Integer}}] direct sessions by page and day
      def initialize(convention, facts, campaigns: {}, history: {})
        @convention = convention
        @facts = facts
        @campaigns = campaigns
        @history = history
        @medians = {}
        @pages, @tokens = Array.new(2) { Memory.new(MOST_TOLD) }
        @by_page = facts.group_by(&:page)
        @by_value = Hash.new { |index, role| index[role] = facts.group_by { |fact| fact.carried[role] } }
        @patterns = Hash.new { |index, role| index[role] = patterns(role) }
        @behind = {}
        @told = Memory.of_objects(MOST_TOLD)
      end

      # @param landing [String] an address, or a path on the advertiser's first host
      # @return [String] host and path
      def page(landing)
        @pages.fetch(landing) { page_of(landing) }
      end

      # @param value [String] as a report recorded it
      # @return [Boolean] whether it is a token, or looks like one
      def token?(value)
        @tokens.fetch(value) do
          convention.dialects.any? { |dialect| dialect.token_in(value) } || !Convention::Placeholder.in(value).nil?
        end
      end

      # @param page [String] host and path
      # @param on [Date, nil] a day on which the links must have been out
      # @return [Array<LinkFact>] links that land there
      def landing_on(page, on: nil)
        @by_page.fetch(page, []).select { |fact| on.nil? || out?(fact, on) }
      end

      # @param role [String]
      # @param value [String]
      # @param row [Row]
      # @return [Array<LinkFact>] links that carry exactly this value and may be behind the row: of its source
      #   where that is another role, and of its campaign where any of these is
      def carrying(role, value, row)
        key = [role, value, row.source.to_s.downcase, era(row.date)]
        by_campaign = @behind[key] ||= of_source(role, value, row)
        by_campaign[row.campaign.to_s.downcase] || by_campaign[:all]
      end

      # @param row [Row]
      # @return [Array<LinkFact>] links between own pages that carry just what the row says, and lead where it
      #   landed
      def internal(row)
        @internal ||= behind(facts.select { |fact| fact.root("param/internal") })
        return NONE if @internal.none?

        @internal.of(said(row)).select { |fact| there?(fact, row) && out?(fact, row.date) }
      end

      # @param row [Row]
      # @return [Boolean] whether a link from elsewhere carries the same and leads there too
      def from_outside?(row)
        @outside ||= behind(facts.reject { |fact| fact.root("param/internal") })
        @outside.of(said(row)).any? { |fact| there?(fact, row) }
      end

      # @param row [Row]
      # @return [Array<LinkFact>] ads that carry just what the row says
      def ads(row) = same(row).select { |fact| fact.kind == "ad" }

      # @param row [Row]
      # @return [Boolean] whether nothing but ads carries what the row says
      def only_ads?(row) = same(row).all? { |fact| fact.kind == "ad" }

      # @param landing [String]
      # @return [String, nil] the name of a click identifier in its parameters
      def identifier_in(landing)
        query = landing.to_s[/\?([^#]*)/, 1] or return
        names = @identifiers ||= convention.identifiers.select { |one|
          one.paid ||
            one.kinds.include?("ad")
        }.map(&:parameter)
        Address::Pair.split(query).find { |pair| names.include?(pair.name) && !pair.value.to_s.empty? }&.name
      end

      # @param campaign [String] as a row spells it
      # @return [String, nil] the spelling that it is a rarer one of
      def usual_spelling(campaign) = spellings[campaign]

      # @return [Hash{String => String}] rarer spellings of campaigns, and the usual ones
      def spellings
        @spellings ||= Convention::Spelling.new(
          @campaigns.reject { |name, _| name.empty? },
          permitted: convention.role("campaign")&.vocabulary || []
        ).groups
          .flat_map { |group| group.others.map { |other| [other, group.keep] } }.to_h
      end

      # @return [Array] all that tells rows apart beside links: spellings and bursts
      def told_apart
        [
          spellings,
          @history.keys.sort.to_h { |page| [page, burst_days(page)] }.reject { |_, days| days.empty? }
        ]
      end

      # @param ids [Array<Integer>] of links
      # @return [Array<Date>] days from which on they were out
      def since(ids)
        @since ||= facts.to_h { |fact| [fact.id, fact.since] }
        @since.values_at(*ids.uniq).compact.uniq
      end

      # @param page [String] host and path
      # @return [Array<Date>]
      def burst_days(page)
        (@bursts ||= {})[page] ||= (landing_on(page).any? { |fact|
          fact.kind == "message" &&
                  fact.since
        }) ? @history[page].to_h.keys.select { |day| burst(page, day) }.sort : NONE
      end

      # @param page [String] host and path
      # @param day [Date]
      # @return [Burst, nil]
      def burst(page, day)
        sessions = @history.dig(page, day).to_i
        median = median_of(page, before: day)
        return if median.nil? || sessions <= BURST_TIMES * [median, 1].max || sent(page, day).empty?

        Burst.new(sessions: sessions, median: median, likelihood: (sessions - median).to_f / sessions)
      end

      # @param page [String]
      # @param day [Date]
      # @return [Array<LinkFact>] links in messages that lead there and went out in the days before
      def sent(page, day)
        landing_on(page).select do |fact|
          fact.kind == "message" && fact.since && (day - fact.since).between?(0, BURST_DAYS)
        end
      end

      # @param page [String]
      # @param since [Date, nil]
      # @return [Array(Integer, Integer), nil] direct sessions a day in the median, before a day and from it
      #   on
      def medians(page, since)
        return unless since && (days = @history[page])

        @medians[[page, since]] ||= begin
          before, after = days.partition { |day, _| day < since }.map { |some| some.map(&:last) }
          (before.size < FEW_DAYS || after.size < 2) ? [nil, nil] : [median(before), median(after)]
        end
      end

      # @param page [String]
      # @param facts [Array<LinkFact>]
      # @return [Float, nil] the share of direct sessions that is new since the first of them was out; nil
      #   where no figures tell
      def likelihood(page, facts)
        before, after = medians(page, facts.filter_map(&:since).min)
        return unless before && after.positive?

        ((after - before).to_f / after).clamp(LIKELIHOODS)
      end

      # Works something out once for all rows that the same links are behind.
      #
      # @param facts [Array<LinkFact>] told apart as an object: `carrying` gives the same one for the same
      #   links
      # @param what [Object] which of the things that are told of them
      # @return [Object] what the block says
      def once(facts, what)
        told = @told.fetch(facts) { {} }
        told.fetch(what) { told[what] = yield }
      end

      # @param day [Date]
      # @return [Integer] the same for all days on which the same links were out
      def era(day)
        (@days ||= facts.filter_map(&:since).uniq.sort).bsearch_index { |since| since > day } || @days.size
      end

      # @param visit [Hash{String => String}]
      # @return [String] the channel's name
      def channel(visit) = convention.channel_rules.classify(visit).channel

      private

      NONE = [].freeze
      private_constant :NONE

      def page_of(landing)
        absolute = landing.match?(%r{\Ahttps?://}i)
        Address.new(absolute ? landing : "http://#{home}/#{landing.delete_prefix("/")}").page
      end

      def behind(some)
        named = some.reject { |fact|
          fact.carried.values_at("source", "medium").all? { |value|
            value.to_s.empty?
          }
        }
        Behind.new(named, convention)
      end

      def said(row) = [row.source, row.medium, row.campaign].map(&:to_s)

      def same(row)
        @alike ||= behind(facts)
        @alike.of(said(row)).select { |fact| out?(fact, row.date) }
      end

      def out?(fact, day) = fact.since.nil? || fact.since <= day

      def there?(fact, row) = row.landing.to_s.empty? || fact.page == page(row.landing)

      def median_of(page, before:)
        days = @history[page].to_h.select { |day, _| day < before }.values
        median(days) if days.size >= FEW_DAYS
      end

      def median(numbers) = numbers.sort[numbers.size / 2]

      def of_source(role, value, row)
        exact = @by_value[role].fetch(value, NONE)
        out = (exact + filled_in(role, value)).select { |fact| out?(fact, row.date) }
        same =
          if role == "source"
            out
          else
            out.select { |fact| fact.carried["source"].to_s.casecmp?(row.source.to_s) }
          end
        same.group_by { |fact| fact.carried["campaign"].to_s.downcase }.merge(all: same)
      end

      # A token alone may stand for any value, and tells nothing.
      #
      # @return [Array<Array(Regexp, LinkFact)>]
      def patterns(role)
        facts.filter_map do |fact|
          pattern = convention.filled(fact.carried[role].to_s)
          [pattern, fact] if pattern && !pattern.match?("")
        end
      end

      # @return [Array<LinkFact>] links that carry it where a token stands
      def filled_in(role, value)
        @patterns[role].select { |pattern, _| pattern.match?(value) }.map(&:last)
      end

      def home = convention.own_hosts.names.find { |name| !name.start_with?("*") }
    end
  end
end
