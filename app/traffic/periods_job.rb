# frozen_string_literal: true

# Sums the periods that people look at in the worker, so that whoever looks on need not wait.
PeriodsJob = Struct.new(:workspace_id) do
  # @param workspace [Workspace]
  def self.queue(workspace) = Queues.put_once(new(workspace.id))

  def perform
    workspace = Workspace.find_by(id: workspace_id)
    AskedPeriod.renew(workspace) if workspace
  end
end
