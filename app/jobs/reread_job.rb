# frozen_string_literal: true

# Reads the ads of a workspace anew in the worker, and has what follows explained.
RereadJob = Struct.new(:workspace_id) do
  def perform
    workspace = Workspace.find_by(id: workspace_id) or return

    AdRereading.new(workspace).call
    Explaining.later(workspace)
  end
end
