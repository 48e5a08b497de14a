# frozen_string_literal: true

module Orvant
  module Inventory
    # The one way in to every reader of files: names the kind of a source, or guesses it, and reads it.
    module Source
      # kind => the reader's class
      READERS = {
        "links" => LinkList,
        "ads" => AdList,
        "messages" => Messages,
        "register" => RegisterList,
        "print" => PrintList,
        "paste" => Paste
      }.freeze
      KINDS = READERS.keys.freeze
      TABLES = %w[links ads register print].freeze
      # What a person may say beside the file, and the kinds for which it means something.
      OPTIONS = {
        network: %w[ads],
        host: %w[register],
        place: %w[paste print],
        owner: %w[ads messages paste],
        link_kind: %w[paste],
        matching: TABLES
      }.freeze

      class << self
        # @param kind [String] one of KINDS
        # @param bytes [String]
        # @param filename [String]
        # @param convention [Convention, nil] gives dialects, billed hosts and own hosts
        # @param said [Hash{Symbol => Object}] of OPTIONS; those that mean nothing for the kind, or are empty,
        #   are left out
        # @return [Collected]
        # @raise [Error::UnusableTable]
        def read(kind, bytes, filename: "", convention: nil, **said)
          if kind == "print" && bytes.b.start_with?(QrImage::SIGN)
            return QrImage.read(bytes, place: said[:place].to_s.empty? ? filename : said[:place])
          end

          options = said.select { |name, value| OPTIONS.fetch(name, []).include?(kind) && !value.to_s.empty? }
          options[:kind] = options.delete(:link_kind) if options.key?(:link_kind)
          READERS.fetch(kind).read(bytes, **options, **known(kind, filename, convention))
        end

        # @param bytes [String]
        # @param filename [String]
        # @return [String] the likeliest kind
        def guess(bytes, filename)
          return "messages" if filename.match?(/\.(eml|html?|zip)\z/i)
          return "print" if bytes.b.start_with?(QrImage::SIGN)
          return "paste" if filename.match?(/\.(txt|md)\z/i)

          by_header(bytes) || "paste"
        end

        private

        def known(kind, filename, convention)
          case kind
          when "ads" then convention ? {dialects: convention.dialects, billed: convention.billed_hosts} : {}
          when "messages" then {filename: filename, finder: finder(convention)}
          when "paste" then {finder: finder(convention)}
          else {}
          end
        end

        def finder(convention)
          return AddressText.new unless convention

          AddressText.new(
            dialects: convention.dialects,
            hosts: Hosts.new(convention.own_hosts.names + convention.relay_hosts.names)
          )
        end

        # A column that only one kind of table has tells it; titles may stand above the header.
        def by_header(bytes)
          Table.read(bytes).rows.first(Columns::SAMPLE).lazy
            .filter_map { |row| by_names(row.cells.map { |cell| cell.strip.downcase.tr("_-", "  ") }) }.first
        rescue Error::UnusableTable
          nil
        end

        def by_names(names)
          if names.intersect?(AdList::FIELDS[:pattern] + AdList::FIELDS[:tail] + ["ad group", "campaign"])
            return "ads"
          end
          if names.intersect?(RegisterList::FIELDS[:path]) && names.intersect?(RegisterList::FIELDS[:target])
            return "register"
          end
          return "print" if names.intersect?(PrintList::FIELDS[:run] + ["qr", "qr code"])

          if names.any? { |name|
            LinkList::FIELDS[:address].include?(name) ||
                name.match?(TableReader::ADDRESS)
          }
            "links"
          end
        end
      end
    end
  end
end
