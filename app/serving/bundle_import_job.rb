# frozen_string_literal: true

# Makes a workspace of a bundle in the worker. Where a worker was ended meanwhile, what it had made goes, and
# it is made anew.
BundleImportJob = Struct.new(:bundle_import_id) do
  def perform
    one = BundleImport.find_by(id: bundle_import_id)
    return unless one && BundleImport::ACTIVE.include?(one.state)

    forget_half(one)
    return give_up(one, "stopped") if one.stopping?
    if one.begun >= BundleImport::MOST_TRIES
      return give_up(one, "failed", "Orvant was ended #{one.begun} times while it read this bundle: it asks for more memory than there is.")
    end

    read(one)
  end

  def error(_job, error)
    one = BundleImport.find_by(id: bundle_import_id) or return
    forget_half(one)
    give_up(one, "failed", NoRoom.sentence(error, "The bundle"))
  end

  private

  def read(one)
    one.update!(state: "running", begun: one.begun + 1)
    BundleReader.new(one).call
    FileUtils.rm_f(one.file)
  rescue BundleReader::Stopped
    forget_half(one)
    give_up(one, "stopped")
  rescue Orvant::Error => error
    forget_half(one)
    give_up(one, "failed", error.message)
  end

  def forget_half(one)
    Workspace.where(state: "arriving").find_by(id: one.workspace_id)&.then { |half| Closing.new(half).delete }
    one.update!(workspace_id: nil, done: 0)
  end

  def give_up(one, state, problem = nil)
    one.update!(state: state, problem: problem)
    FileUtils.rm_f(one.file)
  end
end
