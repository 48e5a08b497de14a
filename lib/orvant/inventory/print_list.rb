# frozen_string_literal: true

module Orvant
  module Inventory
    # Reads a table of printed codes: the address a code holds, the place where it hangs, and the print run.
    class PrintList < TableReader
      FIELDS = {
        address: ["address", "link", "url", "code", "qr code", "qr", "printed address"],
        place: ["place", "where", "location", "site"],
        run: ["run", "print run", "edition", "batch"],
        owner: ["owner", "who", "team", "print shop"],
        since: ["since", "date", "printed on", "out since"],
        spend: ["cost", "spend"], shows: ["shows", "printed as"]
      }.freeze
      TELLING = :address
      RECOGNISED = ->(cell) { cell.match?(ADDRESS) }

      # @param place [String, nil] where codes hang whose row does not say
      def initialize(table, place: nil, **rest)
        super(table, **rest)
        @place = place.to_s
      end

      private

      def read(row)
        place, run = text(row, :place), text(row, :run)
        place = @place if place.empty?
        [Sighting.new(address: Address.parse(cell(row, :address)),
          kind: "print",
          place: [place, run].reject(&:empty?).join(" · "),
          owner: text(row, :owner),
          since: beside(row) { date(row, :since) },
          spend: beside(row) { cents(row, :spend) },
          line: row.line,
          facts: facts(run, text(row, :shows).downcase))]
      end

      # Whether people read an address there, or a code holds it.
      def facts(run, shows)
        said = {
          "run" => run,
          "shows" => {"words" => "words", "code" => "code", "qr" => "code", "qr code" => "code"}[shows] || ""
        }.reject do |_, value|
          value.empty?
        end
        said.empty? ? nil : said
      end
    end
  end
end
