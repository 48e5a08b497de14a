# frozen_string_literal: true

module Orvant
  module Inventory
    # Reads a register of short links or redirects: a path (or address) and the target it is meant to have.
    class RegisterList < TableReader
      FIELDS = {
        path: ["path", "short path", "short link", "code", "from", "alias"],
        target: ["target", "to", "destination", "landing page", "leads to"],
        host: ["host", "short host"],
        owner: ["owner", "who", "team", "who can change it"],
        since: ["since", "date", "made on"],
        place: ["note", "used for", "found", "where"]
      }.freeze
      TELLING = :target
      RECOGNISED = ->(cell) { cell.match?(ADDRESS) }

      # @param host [String, nil] the host of paths that name none
      # @param scheme [String] the scheme of paths
      def initialize(table, host: nil, scheme: "http", **rest)
        super(table, **rest)
        @host = host.to_s
        @scheme = scheme
      end

      private

      def read(row)
        path = cell(row, :path)
        [Sighting.new(address: Address.parse(short(path, cell(row, :host))),
          kind: "short-link",
          place: ["register", text(row, :place)].reject(&:empty?).join(" · "),
          owner: text(row, :owner),
          since: beside(row) { date(row, :since) },
          target: Address.parse(cell(row, :target)),
          key: path,
          line: row.line)]
      end

      def short(path, host)
        return path if path.match?(ADDRESS)
        raise Error::UnusableRow, "The row names no path." if path.empty?

        host = @host if host.empty?
        if host.empty?
          raise Error::UnusableRow,
            "The path “#{path[0, Cut::QUOTE]}” names no host; give one for the whole register."
        end

        "#{@scheme}://#{host}/#{path.delete_prefix("/")}"
      end
    end
  end
end
