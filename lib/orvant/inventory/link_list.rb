# frozen_string_literal: true

require "date"

module Orvant
  module Inventory
    # Reads a table of links into sightings.
    class LinkList
      FIELDS = {
        address: ["address", "link", "url", "landing page", "landing address", "final address", "target"],
        kind: ["kind", "type", "kind of link"],
        place: ["found", "where", "place", "where found", "where it was found", "found in", "found on"],
        owner: ["owner", "who", "team", "who can change it"],
        spend: ["spend", "cost", "costs"],
        since: ["since", "out since", "date", "sent on", "sent"],
        replaces: ["replaces", "instead of"]
      }.freeze

      attr_reader :sightings, :rejected, :notes, :columns, :encoding

      # @param bytes [String] a CSV, TSV or semicolon-separated file
      # @return [LinkList] with `sightings` (Array<Sighting>), `rejected` (Array<Table::Rejected>), `notes` (sentences)
      # @raise [Error::UnusableTable]
      def self.read(bytes) = new(Table.read(bytes))

      def initialize(table)
        reader = Columns.new(table, fields: FIELDS, telling: :address, recognise: ->(cell) { cell.match?(%r{\Ahttps?://}i) })
        @sightings = []
        @rejected = table.rejected
        @columns = reader.names
        @encoding = table.encoding
        reader.rows.each { |row| take(row, reader) }
        @notes = reader.notes
        @rejected.sort_by!(&:line)
      end

      private

      def take(row, reader)
        @sightings << sighting(row, reader)
      rescue Error::UnusableAddress, ArgumentError => error
        @rejected << Table::Rejected.new(line: row.line, reason: error.message,
          cells: row.cells.first(50).map { |cell| cell[0, 500] })
      end

      def sighting(row, reader)
        cells = FIELDS.keys.to_h { |field| [field, reader.cell(row, field)] }
        Sighting.new(address: Address.parse(cells[:address]), kind: kind(cells[:kind]), place: text(cells[:place]),
          owner: text(cells[:owner]),
          spend: spend(cells[:spend]), since: date(cells[:since]),
          replaces: (Address.parse(cells[:replaces]) unless cells[:replaces].empty?), line: row.line)
      end

      def kind(cell)
        name = cell.downcase.tr(" _", "--")
        return "other" if name.empty?

        Sighting::KINDS.include?(name) ? name : raise(ArgumentError,
          "The kind “#{cell[0, 40]}” is none of: #{Sighting::KINDS.join(", ")}.")
      end

      def text(cell) = cell.gsub(/[[:cntrl:]]+/, " ").strip[0, 500]

      def spend(cell)
        Amount.cents(cell)
      rescue ArgumentError
        raise ArgumentError, "The spend “#{cell[0, 40]}” is no amount."
      end

      def date(cell)
        cell.empty? ? nil : Date.iso8601(cell)
      rescue Date::Error
        raise ArgumentError, "The date “#{cell[0, 40]}” is not written as year-month-day (2026-11-25)."
      end
    end
  end
end
