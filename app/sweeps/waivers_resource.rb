# frozen_string_literal: true

# Findings that may stand for a while.
class WaiversResource < Resource
  # The latest that are listed.
  MOST = 1_000

  get "/api/workspaces/:workspace/waivers" do
    json("waivers" => workspace.waivers.order(id: :desc).limit(MOST).map(&:as_document))
  end

  post "/api/workspaces/:workspace/findings/:id/waive" do
    wish = json_body
    finding = workspace.findings.current.find(params["id"])
    reason, ends = line(wish["reason"], Orvant::Cut::CELL), date(wish["ends"], "The end")
    raise Problem.new(:unusable_input, "Say why the finding may stand.") if reason.empty?
    raise Problem.new(:unusable_input, "The end lies in the past.") if ends < Date.current

    waiver = Waiver.grant!(finding, reason: reason, ends: ends, author: author(wish))
    workspace.tell("workspace.changed")
    status 201
    json(waiver.as_document)
  end

  post "/api/workspaces/:workspace/waivers/:id/take-back" do
    waiver = workspace.waivers.find(params["id"])
    waiver.take_back unless waiver.over_at
    workspace.tell("workspace.changed")
    json(waiver.as_document)
  end

  # What shows over many links only: one value in several spellings, one name with several meanings.
  get "/api/workspaces/:workspace/findings/over-all" do
    json("findings" => workspace.findings.standing.where(over_all: true).order(:code, :id).map(&:as_document))
  end
end
