# frozen_string_literal: true

module Orvant
  module Traffic
    # What networks claim beside what was found, by campaign under one name.
    class Reckoning
      # One campaign of one network. campaign: as the network calls it · name: as its links do · twice: rows
      # that stood there more than once · sessions, conversions: recorded · orders, order_value: found with
      # its source.
      Line = Struct.new(
        :network,
        :campaign,
        :name,
        :impressions,
        :clicks,
        :cost,
        :claimed,
        :claimed_value,
        :sessions,
        :conversions,
        :orders,
        :order_value,
        :twice,
        keyword_init: true
      )
      FIGURES = %i[impressions clicks cost claimed claimed_value].freeze

      # @param claims [Array<Claim>]
      # @param names [Hash{Array(String, String) => Array(String, String)}] network and its campaign, in lower
      #   case => source and campaign that its links carry; a Regexp where the network fills the campaign in
      # @param found [Hash{Array(String, String) => Array(Integer, Integer)}] sessions and conversions by
      #   source and campaign
      # @param ordered [Hash{Array(String, String) => Array(Integer, Integer)}] orders and their value by
      #   source and campaign
      # @return [Array<Line>] the dearest first
      def self.lines(claims, names: {}, found: {}, ordered: {})
        claims.group_by { |one| [one.network, one.campaign] }.map { |(network, campaign), same|
          kept, twice = once(same)
          source, name = names.fetch([network.downcase, campaign.downcase], [network, campaign])
          sessions, conversions = of(found, source, name)
          orders, value = of(ordered, source, name)
          Line.new(
            network: network,
            campaign: campaign,
            name: name.is_a?(Regexp) ? campaign : name,
            **FIGURES.to_h { |field| [field, kept.sum { |one| one[field].to_i }] },
            sessions: sessions,
            conversions: conversions,
            orders: orders,
            order_value: value,
            twice: twice
          )
        }.sort_by { |line| [-line.cost, line.network, line.campaign] }
      end

      # One campaign may run in several networks: each is held against its own source, where rows name that
      # one at all; and as it is written, where rows write it so.
      def self.of(sums, source, name)
        known = sums.select { |(from, _), _| from.casecmp?(source.to_s) }
        known = sums if known.empty?
        same = known.select { |(_, campaign), _| name === campaign }
        if same.empty? && name.is_a?(String)
          same = known.select { |(_, campaign), _|
            campaign.casecmp?(name)
          }
        end
        same.values.transpose.map(&:sum).then { |figures| figures.empty? ? [0, 0] : figures }
      end
      private_class_method :of

      # A row that stands there twice (same network, account, campaign, ad and day) is one: two exports
      # overlap.
      #
      # @param claims [Array<Claim>]
      # @return [Array(Array<Claim>, Integer)] each once, the last that was read; and how many were too many
      def self.once(claims)
        kept = claims.group_by { |one|
          [one.date, one.network, one.account, one.campaign, one.ad]
        }.values.map(&:last)
        [kept, claims.size - kept.size]
      end
    end
  end
end
