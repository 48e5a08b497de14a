# frozen_string_literal: true

# Reads the ads of a workspace anew in the worker, and has what follows explained.
RereadJob = Struct.new(:workspace_id) do
  def perform
    workspace = Workspace.find_by(id: workspace_id) or return

    AdRereading.new(workspace).call
    done
    workspace.tell("workspace.changed")
  end

  # Sweeps do not wait for what cannot be done.
  def error(*) = done

  private

  # One that was asked for meanwhile stays.
  def done
    return if Delayed::Job.exists?(handler: Queues.text(self), locked_at: nil, failed_at: nil)

    Workspace.where(id: workspace_id).update_all(rereading: false)
  end
end
