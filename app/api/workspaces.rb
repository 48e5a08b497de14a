# frozen_string_literal: true

class Api
  get "/api/workspaces" do
    json("workspaces" => Workspace.order(:name).map { |one| {"name" => one.name, "title" => one.title} })
  end

  get "/api/workspaces/:workspace" do
    json(WorkspaceSummary.new(workspace).document)
  end

  get "/api/workspaces/:workspace/convention" do
    version = workspace.convention_version
    json("version" => version.version, "note" => version.note, "since" => version.created_at.iso8601,
      "document" => version.document)
  end
end
