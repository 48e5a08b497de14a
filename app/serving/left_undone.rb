# frozen_string_literal: true

# Sweeps and imports that nobody works on any more, since a process was killed: they are taken up again, or
# ended with their reason.
module LeftUndone
  # A request that still reads a file tells of itself more often, in seconds.
  SILENT = 60

  class << self
    # Puts every sweep and import that is under way, and stands in no queue, back into it; what has changed
    # since it was explained, too.
    def take_up
      Sweep.active.find_each do |sweep|
        sweep.queue unless Queues.hold?(SweepJob.new(sweep.id))
      end
      Import.active.where("updated_at < ?", Time.now.utc - SILENT).find_each do |import|
        take_up_import(import) unless Queues.hold?(ImportJob.new(import.id))
      end
      take_up_workspaces
      PreparedFile.where(state: PreparedFile::ACTIVE).find_each { |one| take_up_job(PrepareJob.new(one.id)) }
      BundleImport.where(state: BundleImport::ACTIVE).find_each { |one| take_up_job(BundleImportJob.new(one.id)) }
    end

    private

    def take_up_workspaces
      Workspace.shown.where("explained_at IS NULL OR explained_at < changed_at")
        .where("explaining_failed_at IS NULL OR explaining_failed_at < changed_at")
        .find_each { |workspace| take_up_job(ExplainJob.new(workspace.id)) }
      Workspace.shown.where(rereading: true).find_each { |workspace|
        take_up_job(RereadJob.new(workspace.id))
      }
      Workspace.where(state: "closing").find_each { |workspace| take_up_job(ClosingJob.new(workspace.id)) }
    end

    def take_up_job(job) = (Queues.put_once(job) unless Queues.hold?(job))

    def take_up_import(import)
      return import.queue if Fetching::KINDS.include?(import.kind) || File.exist?(ImportJob.file(import.id))

      import.update!(
        state: "failed",
        problem: "Orvant was ended while it read this file. What it had kept is kept: import the file again for the rest."
      )
    end
  end
end
