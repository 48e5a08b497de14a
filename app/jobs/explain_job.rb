# frozen_string_literal: true

# Explains a workspace in the worker. It may run twice: what is explained already is left as it is.
ExplainJob = Struct.new(:workspace_id) do
  def perform
    workspace = Workspace.find_by(id: workspace_id)
    Explaining.new(workspace).call if workspace
  end
end
