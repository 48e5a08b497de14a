# frozen_string_literal: true

# Sweeps: begun, stopped, resumed and compared.
class SweepsResource < Resource
  include BeginsSweeps

  # The latest that are listed.
  MOST = 50
  # As how many visitors links may be followed.
  VISITORS = (1..4)

  get "/api/workspaces/:workspace/sweeps" do
    json("sweeps" => workspace.sweeps.order(id: :desc).limit(MOST).map(&:as_document))
  end

  get "/api/workspaces/:workspace/sweeps/reach" do
    json(SweepReach.new(
      workspace,
      visitors: params.fetch("visitors", 1).to_i.clamp(VISITORS),
      paused: params["paused"] == "1"
    ).document)
  end

  post "/api/workspaces/:workspace/sweeps" do
    if workspace.links.live.none?
      raise Problem.new(:unusable_input, "There are no links to sweep yet: import some first.")
    end

    begin_sweep(scope: chosen_scope)
  end

  get "/api/workspaces/:workspace/sweeps/:id" do
    json(one_sweep.as_document)
  end

  get "/api/workspaces/:workspace/sweeps/:id/difference" do
    earlier = params["earlier"].to_s.empty? ? nil : workspace.sweeps.find(params["earlier"])
    json(SweepDifference.new(one_sweep, earlier).document)
  end

  post "/api/workspaces/:workspace/sweeps/:id/stop" do
    one_sweep.stop
    json(one_sweep.as_document)
  end

  post "/api/workspaces/:workspace/sweeps/:id/resume" do
    active = workspace.active_sweep
    raise Problem.new(:already_running) if active && active.id != one_sweep.id

    one_sweep.resume
    json(one_sweep.as_document)
  end

  private

  def one_sweep = workspace.sweeps.find(params["id"])

  # What a person chose: everything, or some links with the pages on which they land, or some rehearsals.
  def chosen_scope
    wish = json_body
    visitors = Array(wish.fetch("visitors") { workspace.pace.to_h["visitors"] }).map(&:to_s).uniq.first(4)
    visitors.each { |name| Orvant::Net::Visitor.of(name) }
    extent(wish).merge(
      "visitors" => visitors.empty? ? ["desktop"] : visitors,
      "paused" => wish["paused"] == true
    )
  end

  def extent(wish)
    unless wish.keys.intersect?(%w[links filters rehearsals])
      return {"links" => "all", "pages" => "landing", "rehearsals" => "all"}
    end

    links =
      if wish.key?("filters")
        LinkQuery.new(workspace, wish["filters"]).links.ids
      else
        workspace.links.live.where(id: wish.fetch("links", [])).ids
      end
    scripts = workspace.rehearsal_scripts.where(name: wish.fetch("rehearsals", [])).ids
    if links.empty? && scripts.empty?
      raise Problem.new(:unusable_input, "None of what was chosen is there any more.")
    end

    {"links" => links, "pages" => links.empty? ? [] : "landing", "rehearsals" => scripts}
  end
end
