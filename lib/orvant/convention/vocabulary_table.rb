# frozen_string_literal: true

require "csv"

module Orvant
  class Convention
    # Vocabularies and permitted pairs as tables, so that the sheet a team already keeps can be used.
    #
    # Vocabulary: `value`, `aliases` (parted by `;`), `meaning`, `owner`. Pairs: `source`, `medium`, `kinds`
    # (parted by `;`), and going out `channel`, where the pair leads.
    class VocabularyTable
      MOST = 20_000
      COLUMNS = %w[value aliases meaning owner].freeze
      PAIR_COLUMNS = %w[source medium kinds channel].freeze

      class << self
        # @param vocabulary [Vocabulary]
        # @return [Array<Array<String>>] rows in the order of COLUMNS
        def rows(vocabulary)
          vocabulary.entries.map do |entry|
            [entry.value, entry.aliases.join("; "), entry.meaning, entry.owner]
          end
        end

        # @param convention [Convention]
        # @return [Array<Array<String>>] rows in the order of PAIR_COLUMNS
        def pair_rows(convention)
          convention.pairs.map do |pair|
            [
              pair.source,
              pair.medium,
              pair.kinds.join("; "),
              convention.channel_rules.classify("source" => pair.source, "medium" => pair.medium).channel
            ]
          end
        end

        # @param text [String] CSV or TSV with a header
        # @return [Array<Hash>] values as they stand in a document
        # @raise [Error::UnusableTable]
        def read(text)
          table(text, "value").map do |row|
            {
              "value" => row["value"].to_s.strip,
              "aliases" => list(row["aliases"]),
              "meaning" => row["meaning"].to_s.strip,
              "owner" => row["owner"].to_s.strip
            }.reject do |_, said|
              said.empty?
            end
          end.select { |value| value["value"] }
        end

        # @param text [String] CSV or TSV with a header
        # @return [Array<Hash>] pairs as they stand in a document
        # @raise [Error::UnusableTable]
        def read_pairs(text)
          table(text, "source", "medium").map { |row|
            {
              "source" => row["source"].to_s.strip,
              "medium" => row["medium"].to_s.strip,
              "kinds" => list(row["kinds"])
            }.reject { |_, said| said.empty? }
          }
            .select { |pair| pair["source"] && pair["medium"] }
        end

        private

        def list(text) = text.to_s.split(";").map(&:strip).reject(&:empty?)

        def table(text, *needed)
          text = text.dup.force_encoding(Encoding::UTF_8).delete_prefix("\uFEFF")
          raise Error::UnusableTable, "The file is not readable text (UTF-8)." unless text.valid_encoding?

          divider = (text.lines.first.to_s.count("\t") > text.lines.first.to_s.count(",")) ? "\t" : ","
          rows = CSV.parse(
            text,
            headers: true,
            col_sep: divider,
            header_converters: ->(name) { name.to_s.strip.downcase }
          )
          lacking = needed - rows.headers.compact
          if lacking.any?
            raise Error::UnusableTable,
              "The table has no column “#{lacking.first}”. It needs #{needed.join(" and ")}."
          end
          if rows.size > MOST
            raise Error::UnusableTable, "The table has #{rows.size} rows; #{MOST} are the most."
          end

          rows
        rescue CSV::MalformedCSVError => error
          raise Error::UnusableTable, "The table cannot be read: #{error.message[0, Cut::FAILURE]}"
        end
      end
    end
  end
end
