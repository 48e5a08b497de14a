# frozen_string_literal: true

module Orvant
  module Traffic
    # What is known beside the rows: the convention, and the links by where they land and what they carry.
    class Knowledge
      attr_reader :convention, :facts

      # @param convention [Convention]
      # @param facts [Array<LinkFact>]
      def initialize(convention, facts)
        @convention = convention
        @facts = facts
        @by_page = facts.group_by(&:page)
        @by_value = Hash.new { |index, role| index[role] = facts.group_by { |fact| fact.carried[role] } }
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
      # @param on [Date, nil]
      # @return [Array<LinkFact>] links that carry exactly this value
      def carrying(role, value, on: nil)
        @by_value[role].fetch(value, []).select { |fact| on.nil? || fact.since.nil? || fact.since <= on }
      end

      # @param day [Date]
      # @return [Integer] the same for all days on which the same links were out
      def era(day) = (@days ||= facts.filter_map(&:since).uniq.sort).bsearch_index { |since| since > day } || @days.size

      # @param visit [Hash{String => String}]
      # @return [String] the channel's name
      def channel(visit) = convention.channel_rules.classify(visit).channel

      private

      def home = convention.own_hosts.names.find { |name| !name.start_with?("*") }
    end
  end
end
