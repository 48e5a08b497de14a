# frozen_string_literal: true

class Api
  get "/api/workspaces" do
    json("workspaces" => Workspace.order(:name).map { |one| {"name" => one.name, "title" => one.title} })
  end

  get "/api/workspaces/:workspace" do
    json(WorkspaceSummary.new(workspace).document)
  end
end
