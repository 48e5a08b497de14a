# frozen_string_literal: true

# A whole workspace as one ZIP of open documents: which parts there are, and what stands in each. Rows are
# numbered within their part, and name rows of other parts by those numbers, so that a bundle is the same
# wherever it comes from.
module Bundle
  FORMAT = 1
  # Names the workspace, and says what else the archive is.
  HEAD = "workspace.json"
  # The settings that go along as they are shown; preferences go as they are kept.
  SETTINGS = %w[currency host_map signatures expected_tags expected_fields watching networks].freeze
  PICTURE = %r{\Apictures/(\d{1,9})-(\d{1,9})/(step-\d{1,4}\.png)\z}

  # file: in the archive · model: whose rows · of: which rows of a workspace · refs: Hash of column and the
  # model it names · without: columns that are worked out anew, or belong to one Orvant alone.
  Part = Struct.new(:file, :model, :of, :refs, :without, keyword_init: true) do
    # @return [Array<String>] columns that are carried
    def columns = @columns ||= model.column_names - %w[id workspace_id] - without.to_a

    # @return [Boolean]
    def json? = file.end_with?(".json")
  end

  class << self
    # @return [Array<Part>] in an order in which each names only what stands before it
    def parts = @parts ||= inventory + seen + beside

    private

    def part(file, model, of = nil, refs: {}, without: [])
      Part.new(
        file: file,
        model: model,
        of: of || ->(workspace) { model.where(workspace_id: workspace.id) },
        refs: refs,
        without: without
      )
    end

    def below(model, column, owners)
      ->(workspace) { model.where(column => workspace.public_send(owners).select(:id)) }
    end

    def inventory
      [part("conventions.json", ConventionVersion),
        part("rehearsals.json", RehearsalScript),
        part("imports.csv", Import),
        part(
          "import_entries.csv",
          ImportEntry,
          below(ImportEntry, :import_id, :imports),
          refs: {"import_id" => Import}
        ),
        part("site_pages.csv", SitePage, refs: {"import_id" => Import}),
        part("links.csv", Link, refs: {"replaced_by_id" => Link}),
        part("labels.csv", LinkLabel, refs: {"link_id" => Link}),
        part(
          "sightings.csv",
          Sighting,
          refs: {
            "link_id" => Link,
            "import_id" => Import,
            "ended_by_id" => Import,
            "last_import_id" => Import
          }
        ),
        part(
          "combinations.csv",
          Combination,
          without: %w[stale told first_on last_on channel because nearest explanation_id] + Combination::MEASURES
        ),
        part(
          "traffic.csv",
          TrafficRow,
          refs: {"import_id" => Import, "combination_id" => Combination},
          without: %w[explanation_id]
        ),
        part("claims.csv", Claim, refs: {"import_id" => Import}),
        part("orders.csv", Order, refs: {"import_id" => Import}),
        part("touches.csv", Touch, refs: {"import_id" => Import})]
    end

    def seen
      [part("fixes.csv", Fix),
        part("questions.json", Question),
        part(
          "sweeps.csv",
          Sweep,
          refs: {"fix_id" => Fix, "convention_version_id" => ConventionVersion, "question_id" => Question}
        ),
        part(
          "trails.csv",
          LinkTrail,
          below(LinkTrail, :sweep_id, :sweeps),
          refs: {"sweep_id" => Sweep, "link_id" => Link}
        ),
        part("visits.csv", PageVisit, refs: {"sweep_id" => Sweep}),
        part(
          "runs.csv",
          RehearsalRun,
          below(RehearsalRun, :sweep_id, :sweeps),
          refs: {"sweep_id" => Sweep, "rehearsal_script_id" => RehearsalScript}
        ),
        part(
          "findings.csv",
          Finding,
          refs: {
            "sweep_id" => Sweep,
            "link_id" => Link,
            "fix_id" => Fix,
            "absent_in_id" => Sweep,
            "superseded_in_id" => Sweep
          }
        ),
        part("senders.csv", Sender),
        part("click_hosts.csv", ClickHost),
        part("recordings.json", KeptRecording)]
    end

    def beside
      [part("waivers.csv", Waiver, refs: {"link_id" => Link}),
        part("proposed_values.csv", ProposedValue),
        part("sheets.csv", BuildSheet),
        part("templates.csv", RowTemplate),
        part("matchings.csv", ColumnMatching), part("signposts.csv", Signpost, refs: {"link_id" => Link}),
        part(
          "targets.csv",
          SignpostTarget,
          below(SignpostTarget, :signpost_id, :signposts),
          refs: {"signpost_id" => Signpost}
        ),
        part(
          "passes.csv",
          SignpostPass,
          below(SignpostPass, :signpost_id, :signposts),
          refs: {"signpost_id" => Signpost},
          without: %w[visitor]
        ),
        part("deeds.csv", Deed, without: %w[setting before after undone_at])]
    end
  end

  # Numbers of rows that stand inside documents and texts, not in columns of their own.
  module Within
    class << self
      # @param model [Class]
      # @param row [Hash{String => Object}] is changed
      # @yieldparam of [Class] whose row is named
      # @yieldparam number [Integer]
      # @yieldreturn [Integer, nil] what it is called instead
      def rename(model, row, &rename)
        case model.name
        when "Sweep" then row["scope"] = scope(row["scope"], &rename)
        when "Fix"
          row["proof"] = row["proof"]&.then { |proof|
            proof.merge("sweep_id" => rename.call(Sweep, proof["sweep_id"]))
          }
        when "Finding"
          if row["place"].is_a?(Hash) && row["place"]["links"].is_a?(Array)
            row["place"] = row["place"].merge("links" => rename_all(row["place"]["links"], Link, &rename))
          end
        when "Waiver"
          row["subject"] = row["subject"].sub(/\Alink (\d+)\z/) { "link #{rename.call(Link, $1.to_i)}" }
        end
        row
      end

      private

      def scope(document, &rename)
        document.to_h do |name, value|
          [
            name,
            {
              "links" => Link,
              "rehearsals" => RehearsalScript,
              "last_link" => Link
            }[name].then { |of| of ? rename_all(value, of, &rename) : value }
          ]
        end
      end

      def rename_all(value, of, &rename)
        return value.filter_map { |one| rename_all(one, of, &rename) } if value.is_a?(Array)

        value.is_a?(Integer) ? rename.call(of, value) : value
      end
    end
  end
end
