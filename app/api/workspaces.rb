# frozen_string_literal: true

# Workspaces, and what is wrong in each.
class WorkspacesResource < Resource
  get "/api/workspaces" do
    json("workspaces" => Workspace.order(:name).map { |one| {"name" => one.name, "title" => one.title} })
  end

  get "/api/workspaces/:workspace" do
    json(WorkspaceSummary.new(workspace).document)
  end
end
