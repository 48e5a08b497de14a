# frozen_string_literal: true

module Orvant
  module Traffic
    # What is known beside the rows: the convention, and the links by where they land and what they carry.
    class Knowledge
      # How many sets of links are remembered.
      MOST_TOLD = 10_000

      attr_reader :convention, :facts

      # @param convention [Convention]
      # @param facts [Array<LinkFact>]
      def initialize(convention, facts)
        @convention = convention
        @facts = facts
        @by_page = facts.group_by(&:page)
        @by_value = Hash.new { |index, role| index[role] = facts.group_by { |fact| fact.carried[role] } }
        @behind = {}
        @told = {}.compare_by_identity
      end

      # @param landing [String] an address, or a path on the advertiser's first host
      # @return [String] host and path
      def page(landing)
        absolute = landing.match?(%r{\Ahttps?://}i)
        Address.new(absolute ? landing : "http://#{home}/#{landing.delete_prefix("/")}").page
      end

      # @param page [String] host and path
      # @param on [Date, nil] a day on which the links must have been out
      # @return [Array<LinkFact>] links that land there
      def landing_on(page, on: nil)
        @by_page.fetch(page, []).select { |fact| on.nil? || fact.since.nil? || fact.since <= on }
      end

      # @param role [String]
      # @param value [String]
      # @param row [Row]
      # @return [Array<LinkFact>] links that carry exactly this value and may be behind the row: of its source where that is another role, and of
      #   its campaign where any of these is
      def carrying(role, value, row)
        by_campaign = @behind[[role, value, row.source.to_s.downcase, era(row.date)]] ||= of_source(role, value, row)
        by_campaign[row.campaign.to_s.downcase] || by_campaign[:all]
      end

      # Works something out once for all rows that the same links are behind.
      #
      # @param facts [Array<LinkFact>] told apart as an object: `carrying` gives the same one for the same links
      # @param what [Object] which of the things that are told of them
      # @return [Object] what the block says
      def once(facts, what)
        @told.clear if @told.size > MOST_TOLD
        told = @told[facts] ||= {}
        told.fetch(what) { told[what] = yield }
      end

      # @param day [Date]
      # @return [Integer] the same for all days on which the same links were out
      def era(day) = (@days ||= facts.filter_map(&:since).uniq.sort).bsearch_index { |since| since > day } || @days.size

      # @param visit [Hash{String => String}]
      # @return [String] the channel's name
      def channel(visit) = convention.channel_rules.classify(visit).channel

      private

      def of_source(role, value, row)
        out = @by_value[role].fetch(value, []).select { |fact| fact.since.nil? || fact.since <= row.date }
        same = (role == "source") ? out : out.select { |fact| fact.carried["source"].to_s.casecmp?(row.source.to_s) }
        same.group_by { |fact| fact.carried["campaign"].to_s.downcase }.merge(all: same)
      end

      def home = convention.own_hosts.names.find { |name| !name.start_with?("*") }
    end
  end
end
