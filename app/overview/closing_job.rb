# frozen_string_literal: true

# Deletes what belongs to a workspace that was closed.
ClosingJob = Struct.new(:workspace_id) do
  def perform
    Workspace.where(state: "closing").find_by(id: workspace_id)&.then { |workspace| Closing.new(workspace).delete }
  end
end
