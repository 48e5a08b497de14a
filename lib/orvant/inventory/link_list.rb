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
        replaces: ["replaces", "instead of"]
      }.freeze
      TELLING = :address
      RECOGNISED = ->(cell) { cell.match?(ADDRESS) }

      private

      def read(row)
        [Sighting.new(address: Address.parse(cell(row, :address)), kind: kind(cell(row, :kind)), place: text(row, :place),
          owner: text(row, :owner), spend: beside(row) { cents(row, :spend) }, since: beside(row) { date(row, :since) }, replaces: address(row, :replaces), line: row.line)]
      end

      def kind(cell)
        name = cell.downcase.tr(" _", "--")
        return "other" if name.empty?

        Sighting::KINDS.include?(name) ? name : raise(Error::UnusableRow,
          "The kind “#{cell[0, 40]}” is none of: #{Sighting::KINDS.join(", ")}.")
      end
    end
  end
end
