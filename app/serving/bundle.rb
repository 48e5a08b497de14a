# frozen_string_literal: true

# A whole workspace as one ZIP of open documents: which parts there are, and what stands in each. Rows are
# numbered within their part, and name rows of other parts by those numbers, so that a bundle is the same
# wherever it comes from.
module Bundle
  # 2: says what it holds, and which Orvant wrote it.
  FORMAT = 2
  # Names the workspace, and says what else the archive is.
  HEAD = "workspace.json"
  # SHA-256 and rows of each part.
  DIGESTS = "digests.json"
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
    # @return [Array<Part>] in an order in which each names only itself and what stands before it; of what
    #   stands further down only documents speak (Within::LATER)
    def parts = @parts ||= inventory + seen + beside

    # @return [Array<Class>] whose rows are named by others
    def named = @named ||= (parts.flat_map { |part| part.refs.values } + Within::NAMED).uniq

    # @param model [Class]
    # @return [String] the part that holds its rows
    def file_of(model) = parts.find { |part| part.model == model }.file

    # @param name [String] of an entry
    # @return [Boolean] whether it may stand in an archive
    def part?(name)
      [HEAD, DIGESTS].include?(name) || parts.any? { |part| part.file == name } || PICTURE.match?(name)
    end

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
        part("sheets.csv", BuildSheet),
        part("imports.csv", Import),
        part(
          "import_entries.csv",
          ImportEntry,
          below(ImportEntry, :import_id, :imports),
          refs: {"import_id" => Import}
        ),
        part("site_pages.csv", SitePage, refs: {"import_id" => Import}),
        part("links.csv", Link, refs: {"replaced_by_id" => Link}),
        part("rehearsals.json", RehearsalScript),
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
        part("questions.json", Question, without: %w[digest]),
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
    # Whose rows are named there.
    NAMED = [BuildSheet, Link, RehearsalScript, Sweep].freeze
    # Documents that speak of what stands further down, by their part's model.
    LATER = {"Fix" => %w[proof]}.freeze
    SCOPE = {"links" => "Link", "rehearsals" => "RehearsalScript", "last_link" => "Link"}.freeze

    class << self
      # @param model [Class]
      # @param row [Hash{String => Object}] its columns, or some of them; is changed
      # @yieldparam of [Class] whose row is named
      # @yieldparam number [Integer]
      # @yieldreturn [Integer, nil] what it is called instead; nil where there is none
      # @return [Hash{String => Object}]
      def rename(model, row, &rename)
        name = :"rename_#{model.name.underscore}"
        respond_to?(name, true) ? row.merge(send(name, row.compact, &rename)) : row
      end

      private

      def rename_sweep(row)
        return {} unless row["scope"].is_a?(Hash)

        {"scope" => row["scope"].to_h { |name, value|
          of = SCOPE[name]&.constantize
          [name, of ? rename_all(value) { |number| yield of, number } : value]
        }}
      end

      def rename_fix(row)
        return {} unless row["proof"].is_a?(Hash)

        {"proof" => row["proof"].merge("sweep_id" => row["proof"]["sweep_id"]&.then { |number|
          yield Sweep, number
        })}
      end

      def rename_finding(row)
        return {} unless row["place"].is_a?(Hash) && row["place"].key?("links")

        {"place" => row["place"].merge("links" => rename_all(row["place"]["links"]) { |number|
          yield Link, number
        })}
      end

      def rename_waiver(row)
        {"subject" => row["subject"].to_s.sub(/\Alink (\d{1,9})\z/) { "link #{yield(Link, $1.to_i)}" }}
      end

      # A link that is gone is opened by nobody.
      def rename_rehearsal_script(row)
        {"document" => script(row["document"]) { |number| yield Link, number }}
      end

      def rename_question(row)
        scripts = row["settings"]["rehearsals"] if row["settings"].is_a?(Hash)
        return {} unless scripts.is_a?(Hash)

        renamed = scripts.transform_values { |document| script(document) { |number| yield Link, number } }
        {"settings" => row["settings"].merge("rehearsals" => renamed)}
      end

      def rename_import(row)
        return {} unless row["kind"] == "sheet"

        {"source" => row["source"].to_s.sub(/\ABuild sheet (\d{1,9})\z/) { "Build sheet #{yield(BuildSheet, $1.to_i) || GONE}" }}
      end

      def rename_sighting(row)
        sheet = row["facts"]["sheet"] if row["facts"].is_a?(Hash)
        return {} unless sheet.to_s.match?(/\A\d{1,9}\z/)

        renamed = (yield(BuildSheet, sheet.to_i) || GONE).to_s
        {"facts" => row["facts"].merge("sheet" => renamed),
         "key" => row["key"]&.sub(/\A#{sheet} /) { "#{renamed} " }}
      end

      # @param document [Hash] of a rehearsal
      def script(document)
        return document unless document.is_a?(Hash) && document["steps"].is_a?(Array)

        document.merge("steps" => document["steps"].map { |step|
          number = step["open"]["link"] if step.is_a?(Hash) && step["open"].is_a?(Hash)
          number ? step.merge("open" => step["open"].merge("link" => yield(number) || GONE)) : step
        })
      end

      def rename_all(value, &rename)
        return value.filter_map { |one| rename_all(one, &rename) } if value.is_a?(Array)

        value.is_a?(Integer) ? rename.call(value) : value
      end
    end

    # The number of a row that is no more; no row of a bundle has it.
    GONE = 999_999_999
  end
end
