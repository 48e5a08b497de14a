# frozen_string_literal: true

module Orvant
  module Inventory
    # Reads a network's export of ads: each row sets something for its level, and each ad's click address is
    # resolved through all of them.
    class AdList < TableReader
      PARTS = %w[landing pattern tail own].freeze
      LONG = {"landing" => "landing address", "pattern" => "click pattern", "own" => "own tokens"}.freeze
      FIELDS = {
        landing: [
          "landing address",
          "landing page",
          "landing",
          "final address",
          "destination",
          "link",
          "address"
        ],
        pattern: ["click pattern", "pattern", "tracking pattern"],
        tail: ["tail", "extra parameters", "appended parameters"],
        own: ["own tokens", "own values"],
        account: ["account", "account name"],
        campaign: ["campaign", "campaign name"],
        group: ["group", "ad group", "group name"],
        ad: ["ad", "ad name", "creative", "headline"],
        id: ["ad id", "id", "ad number", "key"],
        account_id: ["account id", "account number"],
        campaign_id: ["campaign id", "campaign number"],
        group_id: ["group id", "ad group id", "group number"],
        keyword: ["keyword", "keywords", "search keyword"],
        level: ["level"],
        network: ["network"],
        status: ["status", "state"],
        spend: ["cost", "spend", "costs"],
        clicks: ["clicks"],
        conversions: ["conversions", "claimed conversions", "results"],
        owner: ["owner", "who", "team", "who can change it", "agency"],
        since: ["since", "out since", "start", "started on"],
        **Level::NAMES[0..2].product(PARTS).to_h { |level, part|
          [
            :"#{level}_#{part}",
            ["#{level} #{part}", "#{level} #{LONG.fetch(part, part)}"]
          ]
        }
      }.freeze
      TELLING = :landing
      RECOGNISED = ->(cell) { cell.match?(ADDRESS) }
      PAUSED = /paus|inactive|stopped|off|removed|ended|archiv|disabled/i

      # @param dialects [Array<Convention::Dialect>]
      # @param network [String, nil] of rows that name none
      # @param billed [Hosts]
      # @param values [Hash{String => String}] values of tokens; the ad's own row, then samples fill in for
      #   the rest
      def initialize(table, dialects: [], network: nil, billed: Hosts.new([]), values: {}, owner: nil, **rest)
        super(table, **rest)
        @dialects = dialects
        @network = network.to_s
        @billed = billed
        @values = values
        @owner = owner.to_s
        @levels = {}
        @warned = []
      end

      # @return [Collected]
      def collected
        super.tap do |read|
          read.notes.concat(@warned.tally.map { |warning, count|
            "#{Orvant::Words.counted(count, "ad")}: #{warning}"
          })
        end
      end

      private

      # What higher levels set may stand below the ads it is for.
      def before(rows)
        rows.each { |row| remember(path(row)[0..depth(row)], row, "") unless ad?(row) }
        rows.each do |row|
          columns_of_levels.each { |level, at| remember(path(row)[0..at], row, "#{level}_") }
        end
      end

      # Higher levels may have columns of their own: `campaign tail`.
      def columns_of_levels
        @columns_of_levels ||= Level::NAMES[0..2].each_with_index.select do |level, _|
          PARTS.any? { |part| @columns.field?(:"#{level}_#{part}") }
        end
      end

      def remember(path, row, prefix)
        level = settings(Level::NAMES[path.size - 1], row, prefix)
        known = @levels[path]
        if known
          level.each_pair { |part, value| known[part] = value unless value.empty? }
        else
          @levels[path] = level
        end
      end

      def settings(name, row, prefix)
        Level.new(
          name: name,
          landing: cell(row, :"#{prefix}landing"),
          pattern: cell(row, :"#{prefix}pattern"),
          tail: cell(row, :"#{prefix}tail"),
          own: own(cell(row, :"#{prefix}own"))
        )
      end

      def own(cell)
        cell.split(/[;\n]/).filter_map { |pair| pair.include?("=") && pair.split("=", 2).map(&:strip) }.to_h
      end

      # Names of account, campaign, group; an ad stands below them.
      def path(row) = %i[account campaign group].map { |field| text(row, field) }

      def depth(row)
        named = Level::NAMES.index(cell(row, :level).downcase)
        return named if named

        path(row).rindex { |name| !name.empty? } || 0
      end

      def ad?(row)
        return cell(row, :level).casecmp?("ad") if @columns.field?(:level) && !cell(row, :level).empty?

        if @columns.field?(:ad) || @columns.field?(:id)
          !(text(row, :ad) + text(row, :id)).empty?
        else
          !cell(row, :landing).empty?
        end
      end

      def read(row)
        return [] unless ad?(row)

        facts = facts(row)
        click = ClickAddress.new(levels(row), dialect(row), values: @values, row: facts.slice(*Convention::Dialect::TOLD))
        @warned.concat(click.warnings)
        [Sighting.new(address: usable(click),
          kind: "ad",
          place: place(row),
          owner: owner(row),
          spend: beside(row) { cents(row, :spend) },
          since: beside(row) { date(row, :since) },
          line: row.line,
          status: cell(row, :status).match?(PAUSED) ? "paused" : "",
          clicks: beside(row) { count(row, :clicks) },
          conversions: beside(row) { count(row, :conversions) },
          key: key(row),
          declared: Address.parse(click.declared),
          click: click.to_h,
          samples: click.samples(@billed),
          facts: facts)]
      end

      def levels(row)
        above = path(row).each_index.filter_map { |at| @levels[path(row)[0..at]] }
        above + [settings("ad", row, "")]
      end

      def dialect(row)
        name = network(row)
        @dialects.find { |dialect| dialect.network.casecmp?(name) } ||
          Convention::Dialect.new("network" => name, "open" => "\u0000", "close" => "\u0000")
      end

      def usable(click)
        if click.declared.empty?
          raise Error::UnusableRow, "The ad has no landing address, and no level above it sets one."
        end

        Address.parse(click.after(@billed))
      end

      def network(row) = text(row, :network).empty? ? @network : text(row, :network)

      def owner(row) = text(row, :owner).empty? ? @owner : text(row, :owner)

      def place(row)
        [
          network(row),
          *path(row).drop(1),
          text(row, :ad).empty? ? text(row, :id) : text(row, :ad)
        ].reject(&:empty?).join(" · ")
      end

      def key(row)
        id = text(row, :id)
        id.empty? ? [network(row), *path(row), text(row, :ad)].join(" · ") : "#{network(row)} #{id}"
      end

      def facts(row)
        {"network" => network(row),
         "account" => path(row)[0],
         "campaign" => path(row)[1],
         "group" => path(row)[2],
         "ad" => text(row, :ad),
         "id" => text(row, :id),
         "account id" => text(row, :account_id),
         "campaign id" => text(row, :campaign_id),
         "group id" => text(row, :group_id),
         "keyword" => text(row, :keyword),
         "tail" => cell(row, :tail), "pattern" => cell(row, :pattern)}.reject { |_, value| value.empty? }
      end
    end
  end
end
