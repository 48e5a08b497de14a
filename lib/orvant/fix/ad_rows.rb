# frozen_string_literal: true

module Orvant
  class Fix
    # The rows to upload to a network for a fix of ads: each part that is to be changed, at the level that
    # sets it, once.
    class AdRows
      # One row. network · account · level: `account`, `campaign`, `group` or `ad` · id: the network's number
      # of an ad · name: of what is changed · part: `landing`, `pattern`, `tail` or `own token NAME` ·
      # as_it_is, as_it_should_be: the whole text of the part.
      Row = Struct.new(
        :network,
        :account,
        :level,
        :id,
        :name,
        :part,
        :as_it_is,
        :as_it_should_be,
        keyword_init: true
      ) do
        # @return [Hash{String => Object}] for JSON
        def to_h = members.to_h { |name| [name.to_s, self[name]] }
      end
      # One ad to be corrected. facts: of its sighting (network, account, campaign, group, ad, id) · levels:
      # what each level sets, from the top down: Hash of name, landing, pattern, tail, own · from, to: its
      # address as it is and as it should be.
      Ad = Struct.new(:facts, :levels, :from, :to, keyword_init: true)

      COLUMNS = %w[network account level id name part as_it_is as_it_should_be].freeze
      # Where an added parameter goes first.
      PARTS = %w[tail pattern landing].freeze

      # @param ads [Array<Ad>]
      def initialize(ads)
        @ads = ads
      end

      # @return [Array<Row>] in the order of the ads
      def rows
        @parts = {}
        @ads.each { |ad| changes(ad).each { |old, new| apply(ad, old, new) } }
        @parts.values.reject { |row| row.as_it_is == row.as_it_should_be }
      end

      private

      # @return [Array<Array(String, String)>] parameters as they stand and as they should; nil where there is
      #   or should be none
      def changes(ad)
        old, new = [ad.from, ad.to].map { |text| Address.new(text).pairs.map(&:raw) }
        gone, come = [old - new, new - old]
        kept = gone.map { |raw| [raw, come.delete(successor(raw, come, old, new))] }
        kept + come.map { |raw| [nil, raw] }
      end

      # What has taken its place: of its name, else at its place.
      def successor(raw, come, old, new)
        same = come.find { |one| one.partition("=").first == raw.partition("=").first }
        return same if same

        there = new[old.index(raw)] if old.size == new.size
        there if come.include?(there)
      end

      def apply(ad, old, new)
        level, part, name = old ? place_of(ad, old) : room_for(ad)
        return unless level

        row = row_of(ad, level, part, name)
        row.as_it_should_be =
          if name
            row.as_it_is.sub(old.partition("=").last) { new.to_s.partition("=").last }
          elsif old
            exchanged(row.as_it_should_be, old, new)
          else
            added(row.as_it_should_be, new)
          end
      end

      # The lowest level that sets the parameter.
      def place_of(ad, raw)
        ad.levels.reverse_each do |level|
          PARTS.each { |part| return [level, part] if pieces(level[part]).include?(raw) }
          level["own"].to_h.each do |name, value|
            return [level, "own", name] if !value.to_s.empty? && raw.end_with?(value.to_s)
          end
        end
        nil
      end

      def room_for(ad)
        PARTS.each do |part|
          (level = ad.levels.reverse.find { |one| !one[part].to_s.empty? }) &&
            (return [level, part] if part != "landing")
        end
        [ad.levels.last, "tail"] if ad.levels.any?
      end

      def row_of(ad, level, part, name)
        text = (part == "own") ? level.dig("own", name).to_s : level[part].to_s
        @parts[[ad.facts["network"], *path(ad, level), part, name, text]] ||= Row.new(
          network: ad.facts["network"],
          account: ad.facts["account"],
          level: level["name"],
          id: (ad.facts["id"] if level["name"] == "ad"),
          name: path(ad, level).last,
          part: (part == "own") ? "own token #{name}" : part, as_it_is: text, as_it_should_be: text
        )
      end

      def path(ad, level)
        Inventory::Level::NAMES.first(Inventory::Level::NAMES.index(level["name"]) + 1)
          .map { |name| (name == "ad") ? ad.facts.values_at("ad", "id").compact.join(" ") : ad.facts[name] }
      end

      def pieces(text) = text.to_s.split(/[?&#]/)

      def exchanged(text, old, new)
        marks = text.split(/([?&#])/)
        marks.map { |piece| (piece == old) ? new.to_s : piece }.join
          .gsub(/(?<=[?&])&+/, "")
          .sub(/[?&]+(?=#|\z)/, "")
      end

      def added(text, raw)
        return raw if text.empty?
        return text if pieces(text).include?(raw)

        "#{text}#{"&" unless text.match?(/[?&]\z/)}#{raw}"
      end
    end
  end
end
