# frozen_string_literal: true

module Orvant
  module Inventory
    # Reads a table of links into sightings.
    class LinkList < TableReader
      FIELDS = {
        address: ["address", "link", "url", "landing page", "landing address", "final address", "target"],
        kind: ["kind", "type", "kind of link"],
        place: ["found", "where", "place", "where found", "where it was found", "found in", "found on"],
        owner: ["owner", "who", "team", "who can change it"],
        spend: ["spend", "cost", "costs"],
        since: ["since", "out since", "date", "sent on", "sent"],
        replaces: ["replaces", "instead of"], page: ["page", "on page", "page address", "stands on"],
        network: ["network"],
        account: ["account", "account name"],
        campaign: ["campaign", "campaign name"],
        group: ["group", "ad group"],
        shows: ["shows", "printed as"]
      }.freeze
      TELLING = :address
      RECOGNISED = ->(cell) { cell.match?(ADDRESS) }

      private

      def read(row)
        kind = kind(cell(row, :kind))
        page = page(row, kind)
        [Sighting.new(address: whole(cell(row, :address), page),
          kind: kind,
          place: text(row, :place),
          owner: text(row, :owner),
          spend: beside(row) { cents(row, :spend) },
          since: beside(row) { date(row, :since) },
          replaces: address(row, :replaces),
          page: page,
          facts: facts(row),
          line: row.line)]
      end

      # A page may stand in a column of its own, or be where the link was found.
      def page(row, kind)
        return address(row, :page) unless cell(row, :page).empty?

        found = cell(row, :place)
        Address.parse(found) if kind == "page" && found.match?(ADDRESS)
      end

      # What is written as on a page is resolved as on that page.
      def whole(text, page)
        (page && !text.match?(ADDRESS)) ? Address::Reference.resolve(text, page) : Address.parse(text)
      end

      def facts(row)
        said = %i[network account campaign group shows].to_h { |field| [field.to_s, text(row, field)] }
          .reject { |_, value| value.empty? }
        said.empty? ? nil : said
      end

      def kind(cell)
        name = cell.downcase.tr(" _", "--")
        return "other" if name.empty?

        Sighting::KINDS.include?(name) ? name : raise(Error::UnusableRow,
          "The kind “#{cell[0, Cut::WORD]}” is none of: #{Sighting::KINDS.join(", ")}.")
      end
    end
  end
end
