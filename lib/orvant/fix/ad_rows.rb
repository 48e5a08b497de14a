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
      # address as it is and as it should be · opens: levels => the address that a click opens by them, in the
      # same writing as `to`; nil where that cannot be told.
      Ad = Struct.new(:facts, :levels, :from, :to, :opens, keyword_init: true)

      COLUMNS = %w[network account level id name part as_it_is as_it_should_be].freeze
      # Where an added parameter goes first.
      PARTS = %w[tail pattern landing].freeze

      # @param ads [Array<Ad>]
      def initialize(ads)
        @ads = ads
      end

      # @return [Array<Row>] in the order of the ads; of an ad that would not open what is offered none
      def rows
        @ads = @ads.select { |ad| opens_right?(ad) }
        changed(@ads)
      end

      private

      # What is uploaded is tried before: a click is to open the corrected address.
      def opens_right?(ad)
        return true unless ad.opens

        mended = changed([ad]).each_with_object(ad.levels.map(&:dup)) do |row, levels|
          write(row, levels.find { |level| level["name"] == row.level })
        end
        same?(ad.opens.call(mended), Address.new(ad.to))
      end

      def write(row, level)
        own = row.part[/\Aown token (.*)\z/m, 1]
        return level[row.part] = row.as_it_should_be unless own

        level["own"] = level["own"].to_h.merge(own => row.as_it_should_be)
      end

      def same?(one, other)
        one.page == other.page && [one, other].map { |address|
          address.pairs.map { |pair|
            [pair.name, pair.value]
          }.sort
        }.uniq.one?
      end

      def changed(ads)
        @parts = {}
        ads.each { |ad| changes(ad).each { |old, new| apply(ad, old, new) } }
        @parts.values.reject { |row| row.as_it_is == row.as_it_should_be }
      end

      # @return [Array<Array(String, String)>] parameters as they stand and as they should; nil where there is
      #   or should be none
      def changes(ad)
        old, new = [ad.from, ad.to].map { |text| Address.new(text).pairs.map(&:raw) }
        gone, come = minus(old, new), minus(new, old)
        kept = gone.map { |raw| [raw, come.delete(successor(raw, come, old, new))] }
        kept + come.map { |raw| [nil, raw] }
      end

      # One that stands twice may go once.
      def minus(some, others)
        left = others.tally
        some.reject { |raw| left[raw].to_i.positive? && left[raw] -= 1 }
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
            exchanged(row.as_it_should_be, old, new, part)
          else
            added(row.as_it_should_be, new, part)
          end
      end

      # The lowest level that sets the parameter.
      def place_of(ad, raw)
        ad.levels.reverse_each do |level|
          PARTS.each { |part| return [level, part] if pieces(level[part], part).include?(raw) }
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

      # A tail is all parameters; of an address they begin behind its first question mark.
      def parted(text, part)
        return [text[/\A[?&]?/], text.sub(/\A[?&]/, "")] if part == "tail"

        place = text.index("?")
        place ? [text[0..place], text[(place + 1)..]] : [text, ""]
      end

      def pieces(text, part) = parted(text.to_s, part).last.split(/[&#]/)

      def exchanged(text, old, new, part)
        head, query = parted(text, part)
        marks = query.split(/([&#])/)
        place = marks.index(old)
        marks[place] = new.to_s if place
        (head + marks.join)
          .gsub(/(?<=[?&])&+/, "")
          .sub(/[?&]+(?=#|\z)/, "")
      end

      def added(text, raw, part)
        return raw if text.empty?
        return text if pieces(text, part).include?(raw)

        address, fragment = text.split("#", 2)
        glue = (part != "tail" && !address.include?("?")) ? "?" : "&"
        glue = "" if address.match?(/[?&]\z/)
        [address + glue + raw, fragment].compact.join("#")
      end
    end
  end
end
