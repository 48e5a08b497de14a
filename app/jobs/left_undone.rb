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
      queued = Delayed::Job.where(failed_at: nil).pluck(:handler).to_set
      Sweep.where(state: Sweep::ACTIVE)
        .find_each { |sweep| sweep.queue unless queued.include?(SweepJob.new(sweep.id).to_yaml) }
      Import.where(state: Import::ACTIVE).where("updated_at < ?", Time.now.utc - SILENT).find_each do |import|
        take_up_import(import) unless queued.include?(ImportJob.new(import.id).to_yaml)
      end
      Workspace.where("explained_at IS NULL OR explained_at < changed_at").find_each do |workspace|
        Explaining.later(workspace) unless queued.include?(ExplainJob.new(workspace.id).to_yaml)
      end
    end

    private

    def take_up_import(import)
      return import.queue if Fetching::KINDS.include?(import.kind) || File.exist?(ImportJob.file(import.id))

      import.update!(
        state: "failed",
        problem: "Orvant was ended while it read this file. What it had kept is kept: import the file again for the rest."
      )
    end
  end
end
