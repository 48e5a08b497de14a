# frozen_string_literal: true

require "drb"

# Rehearsals that are recorded by doing: a person works on the picture of a page.
class RecordersResource < Resource
  ENDED = "This recording has ended: nobody has worked on it for #{RecordingSession::IDLE / 60} minutes, or another was begun. Your steps are kept; begin again."

  error ActiveRecord::RecordNotFound, DRb::DRbConnError do
    problem(Problem.new(:not_found, ENDED))
  end

  post "/api/workspaces/:workspace/recorders" do
    id = desk.begin
    status 201
    recorder(id, desk.find(id).state)
  end

  get "/api/workspaces/:workspace/recorders/:id" do
    recorder(params["id"], session.state)
  end

  get "/api/workspaces/:workspace/recorders/:id/view.png" do
    content_type :png
    session.view
  end

  post "/api/workspaces/:workspace/recorders/:id/acts" do
    wish = json_body
    recorder(params["id"], session.act(wish, desk.links(wish)))
  end

  delete "/api/workspaces/:workspace/recorders/:id" do
    desk.finish(params["id"])
    status 204
  end

  private

  def desk = @desk ||= RecorderDesk.new(workspace, who)

  def session = desk.find(params["id"])

  # What a person types into a page stands in their steps as they typed it.
  def recorder(id, state) = typed_json({"id" => id}.merge(state))
end
