# frozen_string_literal: true

# Sums the periods that people look at in the worker, so that whoever looks on need not wait.
PeriodsJob = Struct.new(:workspace_id) do
  # @param workspace [Workspace]
  def self.queue(workspace)
    job = new(workspace.id)
    waiting = Delayed::Job.exists?(handler: job.to_yaml, locked_at: nil, failed_at: nil)
    Delayed::Job.enqueue(job, queue: Queues::INSIDE) unless waiting
  end

  def perform
    workspace = Workspace.find_by(id: workspace_id)
    AskedPeriod.renew(workspace) if workspace
  end
end
