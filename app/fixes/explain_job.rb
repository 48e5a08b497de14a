# frozen_string_literal: true

# Explains a workspace in the worker. It may run twice: what is explained already is left as it is.
ExplainJob = Struct.new(:workspace_id) do
  # Two workers would take one another's explanations for unused.
  def perform
    File.open(Settings.var("locks", "explaining-#{workspace_id}"), File::RDWR | File::CREAT) do |lock|
      lock.flock(File::LOCK_EX)
      workspace = Workspace.find_by(id: workspace_id)
      Explaining.new(workspace).call if workspace
    end
  end

  # It is tried again once something has changed.
  def error(_job, error)
    Workspace.where(id: workspace_id)
      .update_all(explaining_failed_at: Time.now.utc, explaining_problem: NoRoom.sentence(error,
        "Explaining"))
  end
end
