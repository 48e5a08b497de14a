# frozen_string_literal: true

module Orvant
  module Build
    # Reads rows of a build sheet from a table: a column for each role (by its name or its parameter),
    # `landing`, `kind`, `network`, `exception`. And writes finished links.
    class SheetTable
      NAMES = {
        "landing" => %w[landing address url landing_page destination],
        "kind" => %w[kind type],
        "network" => %w[network],
        "exception" => %w[exception reason]
      }.freeze
      MOST = 20_000

      # @param bytes [String] a file: CSV, TSV, XLSX, ODS or JSON
      # @param convention [Convention]
      # @return [Array<Array(Integer, Row)>] line and row
      # @raise [Error::UnusableTable]
      def self.read(bytes, convention)
        header, *rows = Inventory::Table.read(bytes).rows
        places = columns(header.cells.map { |cell| cell.to_s.strip.downcase }, convention)
        raise Error::UnusableTable, "The sheet has no column “landing”." unless places.key?("landing")
        if rows.size > MOST
          raise Error::UnusableTable, "The sheet has #{rows.size} rows; #{MOST} are the most."
        end

        rows.map { |row| [row.line, row(row.cells, places, convention)] }
      end

      def self.columns(names, convention)
        known = NAMES.merge(convention.roles.to_h { |role|
          [role.name, [role.name, *role.carriers.map(&:downcase)]]
        })
        known.filter_map { |field, spellings|
          (place = names.index { |name| spellings.include?(name) }) &&
            [field, place]
        }.to_h
      end
      private_class_method :columns

      def self.row(cells, places, convention)
        said = places.transform_values { |place| cells[place].to_s.strip }
        values = said.slice(*convention.roles.map(&:name))
        Build.row(
          "landing" => said["landing"],
          "kind" => said["kind"].to_s.empty? ? kind_of(values, convention) : said["kind"],
          "network" => said["network"],
          "exception" => said["exception"],
          "values" => values
        )
      end
      private_class_method :row

      # A pair that is for one kind of link only tells the kind.
      def self.kind_of(values, convention)
        kinds = convention.pairs.select { |pair|
          pair.source == values["source"] &&
            pair.medium == values["medium"]
        }.flat_map(&:kinds)
        (kinds.size == 1) ? kinds.first : "other"
      end

      # @param convention [Convention]
      # @return [Array<String>] the columns of finished links
      def self.header(convention)
        ["address", "kind", "channel", *convention.roles.map(&:name), "landing", "exception"]
      end

      # @param finished [Finished]
      # @param convention [Convention]
      # @return [Array<String>] cells in the order of the header
      def self.cells(finished, convention)
        row = finished.row
        [
          finished.address&.raw,
          row.kind,
          finished.channel,
          *convention.roles.map { |role| row.values[role.name] },
          row.landing,
          row.exception
        ]
      end
    end
  end
end
