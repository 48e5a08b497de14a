# frozen_string_literal: true

# Rehearsals, their last runs and their pictures.
class RehearsalsResource < Resource
  # So many runs are offered to be compared.
  MOST_RUNS = 50
  REHEARSAL_COLUMNS = %w[rehearsal owner weight findings played].freeze

  get "/api/workspaces/:workspace/rehearsals" do
    json("rehearsals" => workspace.rehearsal_scripts.order(:name).map { |script| rehearsal_row(script) })
  end

  get "/api/workspaces/:workspace/rehearsals.csv" do
    rows = workspace.rehearsal_scripts.order(:name).map do |script|
      row = rehearsal_row(script)
      [*row.values_at("title", "owner", "weight"), row["codes"].join(" "), row["played_at"]]
    end
    csv("rehearsals.csv", REHEARSAL_COLUMNS, rows)
  end

  get "/api/workspaces/:workspace/rehearsals/:name" do
    findings = workspace.findings.current.where(rehearsal: script.name).order(:id)
    json("rehearsal" => rehearsal_row(script), "run" => script.last_run&.then { |run| run_document(run.run) },
      "findings" => findings.map(&:as_document), "tags" => tag_names,
      "landing_parts" => anatomy(script.rehearsal.landing.to_s))
  end

  get "/api/workspaces/:workspace/rehearsals/:name/runs" do
    runs = script.rehearsal_runs.order(id: :desc).limit(MOST_RUNS)
    json("runs" => runs.map { |run|
      {
        "sweep_id" => run.sweep_id,
        "played_at" => run.created_at.iso8601,
        "failed" => run.core.failed_step&.fetch("error"),
        "signals" => run.core.signals.size
      }
    })
  end

  get "/api/workspaces/:workspace/rehearsals/:name/comparison" do
    after, before = %w[to from].zip(script.rehearsal_runs.order(id: :desc).limit(2).pluck(:sweep_id))
      .map { |side, usual| script.rehearsal_runs.find_by!(sweep_id: params[side] || usual) }
    compared = Orvant::Rehearsal::Comparison.new(before.core, after.core, names: tag_names)
    json(
      "from" => before.created_at.iso8601,
      "to" => after.created_at.iso8601,
      "steps" => compared.steps.map(&:to_h)
    )
  end

  get "/api/workspaces/:workspace/rehearsals/:name/pictures/:sweep/:step" do
    file = File.join(
      RehearsalRun.pictures(params["sweep"].to_i, script.id),
      "step-#{params["step"].to_i}.png"
    )
    raise Problem.new(:not_found, "There is no picture of this step.") unless File.file?(file)

    content_type :png
    send_file file
  end

  get "/api/workspaces/:workspace/rehearsals/:name/run.har" do
    recording(RehearsalRun.recording(script.last_run&.sweep_id.to_i, script.id), "#{script.name}.har")
  end

  private

  def script = @script ||= workspace.rehearsal_scripts.find_by!(name: params["name"])

  def rehearsal_row(script)
    run = script.last_run
    findings = workspace.findings.standing.where(rehearsal: script.name).order(:id).to_a
    {"name" => script.name, "title" => script.rehearsal.title, "about" => script.rehearsal.about,
     "owner" => script.rehearsal.owner, "steps" => script.rehearsal.steps.size,
     "findings" => findings.size, "weight" => weight_of(findings), "codes" => findings.map(&:code),
     "played_at" => run&.created_at&.iso8601, "sweep_id" => run&.sweep_id}
  end

  # Runs of earlier versions held nothing back.
  def run_document(run)
    {"held" => [], "trouble" => nil}.merge(run, Orvant::Rehearsal::Run.from_h(run).score.to_h)
  end
end
