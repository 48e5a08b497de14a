# frozen_string_literal: true

# Build sheets, templates, and the judging of rows as they are typed.
class SheetsResource < Resource
  # Places of one request.
  MOST_PLACES = 500
  MAX_SHEET = 8 * 1_048_576

  get "/api/workspaces/:workspace/sheets" do
    typed_json(
      "sheets" => workspace.build_sheets.kept.order(updated_at: :desc).map(&:as_document),
      "templates" => workspace.row_templates.order(:name).map(&:as_document)
    )
  end

  post "/api/workspaces/:workspace/sheets" do
    wish = json_body
    made = workspace.build_sheets.create!(
      name: line(wish["name"]).then { |name| name.empty? ? "New links" : name },
      rows: sheet_rows(wish["rows"] || [])
    )
    status 201
    typed_json(made.as_document.merge("rows" => made.rows))
  end

  get "/api/workspaces/:workspace/sheets/:id" do
    typed_json(sheet.as_document.merge("rows" => sheet.rows))
  end

  put "/api/workspaces/:workspace/sheets/:id" do
    wish = json_body
    raise ActiveRecord::StaleObjectError.new(sheet, "update") unless wish["lock"].to_i == sheet.lock_version

    sheet.update!(rows: sheet_rows(wish["rows"]), name: line(wish["name"] || sheet.name))
    typed_json(sheet.as_document)
  rescue ActiveRecord::StaleObjectError
    raise Problem.new(
      :overtaken,
      "Somebody else changed this sheet in the meantime. Keep yours as a sheet of its own, or load theirs."
    )
  end

  post "/api/workspaces/:workspace/sheets/:id/throw-away" do
    sheet.update!(thrown_away_at: Time.now.utc, thrown_away_by: who.name)
    typed_json(sheet.as_document)
  end

  post "/api/workspaces/:workspace/sheets/:id/bring-back" do
    thrown = workspace.build_sheets.find(params["id"])
    thrown.update!(thrown_away_at: nil)
    typed_json(thrown.as_document)
  end

  # Verdicts on rows as they are typed; nothing is kept.
  post "/api/workspaces/:workspace/build/judge" do
    rows = sheet_rows(json_body["rows"]).map { |row| Orvant::Build.row(row) }
    landings = FollowedLanding.of(workspace, rows)
    typed_json("rows" => rows.map { |row| Orvant::Build.finish(row, convention, landings: landings).to_h })
  end

  get "/api/workspaces/:workspace/build/places" do
    rules = convention
    values = OfferedNames.new(workspace, rules).by_role
    typed_json("roles" => rules.roles.map { |role|
      {
        "role" => role.name,
        "carrier" => role.carrier,
        "meaning" => role.meaning,
        "closed" => role.vocabulary.closed?,
        "required" => role.required == "always",
        "values" => values[role.name]
      }
    },
      "places" => Orvant::Build::FanOut.new(rules).places.map { |place| row_document(place) },
      "kinds" => Orvant::Inventory::Sighting::KINDS,
      "networks" => rules.dialects.map { |one|
        {
          "network" => one.network,
          "tokens" => one.tokens.reject(&:landing).map { |token|
            {
              "text" => "#{one.open}#{token.name}#{one.close}",
              "meaning" => token.meaning.to_s
            }
          }
        }
      })
  end

  post "/api/workspaces/:workspace/build/fan-out" do
    wish = json_body
    values =
      if wish["values"].is_a?(Hash)
        wish["values"].transform_values { |text| line(text) }.reject { |_, text| text.empty? }
      else
        {}
      end
    rows = Orvant::Build::FanOut.new(convention).rows(
      landing: line(wish["landing"], Orvant::Cut::LANDING),
      values: values,
      places: places_of(wish["places"])
    )
    typed_json("rows" => rows.map { |row| row_document(row) })
  end

  # Ads that a network knows as rows: their names become values.
  post "/api/workspaces/:workspace/build/from-ads" do
    wish = json_body
    texts = %w[names values].to_h do |name|
      [
        name,
        wish[name].is_a?(Hash) ? wish[name].transform_values { |text| line(text) }
          .reject { |_, text| text.empty? } : {}
      ]
    end
    ads = workspace.sightings.live.where(kind: "ad").order(:id).limit(BuildSheet::MOST_ROWS).map(&:core)
      .select { |one| wish["network"].to_s.empty? || one.facts.to_h["network"] == wish["network"] }
    rows = Orvant::Build::FromAds.new(convention, names: texts["names"], values: texts["values"]).rows(ads)
    if rows.empty?
      raise Problem.new(
        :unusable_input,
        "No ad of #{wish["network"]} is in the inventory that names a landing address."
      )
    end

    typed_json("rows" => rows.map { |row| row_document(row) })
  end

  post "/api/workspaces/:workspace/build/landing" do
    typed_json(LandingCheck.new(workspace).call(json_body["address"].to_s))
  end

  post "/api/workspaces/:workspace/sheets/:id/release" do
    import = release.call or raise Problem.new(
      :unusable_input,
      "No row may leave yet: fill one in, or say why a rejected one leaves."
    )
    typed_json("left" => release.leaving.size, "held" => release.held, "import_id" => import.id)
  end

  get "/api/workspaces/:workspace/sheets/:id/whereabouts" do
    json("rows" => release.whereabouts)
  end

  get "/api/workspaces/:workspace/sheets/:id/links.csv" do
    tell_held
    csv("#{sheet.name}.csv", Orvant::Build::SheetTable.header(convention), released_rows)
  end

  get "/api/workspaces/:workspace/sheets/:id/links.xlsx" do
    tell_held
    content_type "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
    attachment "#{sheet.name}.xlsx"
    Orvant::Export::Workbook.write(
      sheet.name,
      Orvant::Build::SheetTable.header(convention),
      masked(released_rows)
    )
  end

  get "/api/workspaces/:workspace/sheets/:id/links.json" do
    tell_held
    attachment "#{sheet.name}.json"
    json(released_rows.map { |cells| Orvant::Build::SheetTable.header(convention).zip(cells).to_h.compact })
  end

  post "/api/workspaces/:workspace/templates" do
    wish = json_body
    name = line(wish["name"])
    raise Problem.new(:unusable_input, "Give the template a name.") if name.empty?

    kept = workspace.row_templates.find_or_initialize_by(name: name)
    kept.update!(rows: sheet_rows(wish["rows"]).first(Orvant::Build::Template::MOST_ROWS))
    status 201
    typed_json(kept.as_document)
  end

  post "/api/workspaces/:workspace/templates/:id/fill" do
    answers = json_body["answers"]
    typed_json("rows" => workspace.row_templates.find(params["id"]).template.fill(answers.is_a?(Hash) ? answers.transform_values { |text| line(text) } : {}))
  end

  private

  def sheet = @sheet ||= workspace.build_sheets.kept.find(params["id"])

  def sheet_rows(rows)
    raise Problem.new(:unusable_input, "Send “rows” as a list.") unless rows.is_a?(Array)
    if rows.size > BuildSheet::MOST_ROWS
      raise Problem.new(
        :unusable_input,
        "The sheet has #{rows.size} rows; #{BuildSheet::MOST_ROWS} are the most."
      )
    end

    rows.select { |row| row.is_a?(Hash) }
  end

  def places_of(list)
    list.to_a.first(MOST_PLACES).map do |one|
      Orvant::Build::FanOut::Place.new(
        kind: line(one["kind"], Orvant::Cut::WORD),
        source: line(one["source"]),
        medium: line(one["medium"]),
        label: line(one["label"], Orvant::Cut::QUOTE)
      )
    end
  end

  def row_document(row) = row.to_h.transform_keys(&:to_s)

  def release = @release ||= SheetRelease.new(sheet)

  def released_rows = release.leaving.map { |one| Orvant::Build::SheetTable.cells(one, convention) }

  # What may not leave is told, never dropped in silence.
  def tell_held = response["x-held-rows"] = release.held.to_s
end
