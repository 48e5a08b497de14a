# frozen_string_literal: true

# The rules: read, changed, tried, learned, compared and brought back.
class ConventionsResource < Resource
  # Versions and proposals that are listed, the latest first, and differences that are told of.
  MOST_VERSIONS = 500
  MOST_PROPOSED = 500
  MOST_DIFFERENCES = 200
  # A vocabulary of 20,000 values with aliases and meanings fits.
  MAX_CONVENTION = 16 * 1_048_576
  # Examples are proved by the checks, and a version never changes: those of so many are kept.
  IN_WORDS = Orvant::Memory.new(50)

  get "/api/workspaces/:workspace/convention" do
    workspace.tell("rules.opened") if params["warm"] == "1"
    typed_json(version_document(workspace.convention_version))
  end

  get "/api/workspaces/:workspace/convention/versions" do
    json("versions" => workspace.convention_versions.order(version: :desc).limit(MOST_VERSIONS).map(&:as_document))
  end

  get "/api/workspaces/:workspace/convention/versions/:version" do
    typed_json(version_document(version(params["version"])))
  end

  get "/api/workspaces/:workspace/convention/compare" do
    before, after = version(params["from"]), version(params["to"])
    json(
      "from" => before.as_document,
      "to" => after.as_document,
      "differences" => Orvant::Convention::Comparison.of(before.document, after.document).map(&:to_h)
    )
  end

  post "/api/workspaces/:workspace/convention" do
    wish = json_body
    unless wish["document"].is_a?(Hash)
      raise Problem.new(:unusable_input, "Send the convention as “document”.")
    end

    save_version(wish["document"], wish)
  end

  post "/api/workspaces/:workspace/convention/versions/:version/restore" do
    earlier = version(params["version"])
    wish = json_body
    save_version(
      earlier.document,
      {"note" => "Version #{earlier.version} brought back"}.merge(wish),
      restores: earlier.version
    )
  end

  post "/api/workspaces/:workspace/convention/apply" do
    wish = json_body
    unless wish["document"].is_a?(Hash) && wish["proposals"].is_a?(Array)
      raise Problem.new(:unusable_input, "Send “document” and “proposals”.")
    end

    typed_json("document" => Orvant::Convention::Learning.apply(
      wish["document"],
      wish["proposals"].select { |one| one.is_a?(Hash) }
    ))
  end

  get "/api/workspaces/:workspace/convention/rules" do
    rules = workspace.convention
    typed_json("name" => rules.name,
      "note" => rules.note,
      "version" => workspace.convention_version.as_document,
      "roles" => IN_WORDS.fetch(workspace.convention_version.mark) { rules_in_words(rules) },
      "pairs" => Orvant::Convention::VocabularyTable.pair_rows(rules).map { |row|
        Orvant::Convention::VocabularyTable::PAIR_COLUMNS.zip(row).to_h
      },
      "rules" => rules.rules.map { |rule|
        {
          "scope" => rule.to_s,
          "role" => rule.role,
          "changes" => rule.changes,
          "why" => rule.why
        }
      })
  end

  get "/api/workspaces/:workspace/convention/vocabularies/:role.csv" do
    role = convention.role(params["role"]) or raise Problem.new(:not_found)
    csv(
      "#{role.name}.csv",
      Orvant::Convention::VocabularyTable::COLUMNS,
      Orvant::Convention::VocabularyTable.rows(role.vocabulary)
    )
  end

  get "/api/workspaces/:workspace/convention/pairs.csv" do
    csv(
      "pairs.csv",
      Orvant::Convention::VocabularyTable::PAIR_COLUMNS,
      Orvant::Convention::VocabularyTable.pair_rows(convention)
    )
  end

  post "/api/workspaces/:workspace/convention/table" do
    text = request.body.read(MAX_CONVENTION).to_s
    reader = Orvant::Convention::VocabularyTable
    if params["of"] == "pairs"
      typed_json("pairs" => reader.read_pairs(text))
    else
      typed_json("values" => reader.read(text))
    end
  end

  get "/api/workspaces/:workspace/proposed-values" do
    typed_json("proposed" => workspace.proposed_values.order(id: :desc).limit(MOST_PROPOSED).map(&:as_document))
  end

  post "/api/workspaces/:workspace/proposed-values" do
    wish = json_body
    role, value = line(wish["role"], Orvant::Cut::WORD), line(wish["value"])
    if value.empty? || convention.role(role).nil?
      raise Problem.new(:unusable_input, "Name a role of the convention and the value.")
    end

    proposed = workspace.proposed_values.find_or_create_by!(role: role, value: value, state: "open") do |one|
      one.assign_attributes(reason: line(wish["reason"], Orvant::Cut::CELL), author: author(wish))
    end
    status 201
    typed_json(proposed.as_document)
  end

  post "/api/workspaces/:workspace/proposed-values/:id" do
    state = json_body["state"].to_s
    unless ProposedValue::STATES.include?(state)
      raise Problem.new(:unusable_input, "A state is one of: #{ProposedValue::STATES.join(", ")}.")
    end

    typed_json(workspace.proposed_values.find(params["id"]).tap { |one|
      one.update!(state: state)
    }.as_document)
  end

  private

  def version_document(version)
    version.as_document.merge("document" => version.document)
  end

  # @return [ConventionVersion]
  def version(number) = workspace.convention_versions.find_by!(version: number.to_i)

  def save_version(document, wish, **facts)
    saved = ConventionVersion.save!(
      workspace,
      document,
      base: wish["base"].to_i,
      note: line(wish["note"], Orvant::Cut::CELL),
      author: author(wish),
      **facts
    )
    status 201
    typed_json(version_document(saved))
  rescue ConventionVersion::Overtaken => overtaken
    base = workspace.convention_versions.find_by(version: wish["base"].to_i) || overtaken.latest
    changes = Orvant::Convention::Comparison.of(base.document, overtaken.latest.document)
    raise Problem.new(
      :overtaken,
      overtaken.message,
      more: {"latest" => overtaken.latest.as_document, "differences" => changes.first(MOST_DIFFERENCES).map(&:to_h)}
    )
  end

  def rules_in_words(convention)
    convention.roles.map do |role|
      examples = Orvant::Checks::Param::Examples.new(convention, role)
      {"role" => role.name,
       "meaning" => role.meaning,
       "owner" => role.owner,
       "sentences" => Orvant::Convention::InWords.new(role).sentences,
       "good" => examples.good.map(&:to_h),
       "bad" => examples.bad.map(&:to_h),
       "values" => role.vocabulary.entries.map { |entry| entry.to_h.transform_keys(&:to_s) }}
    end
  end
end
