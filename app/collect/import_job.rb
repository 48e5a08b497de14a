# frozen_string_literal: true

# Runs an import in the worker: fetches what stands on the network, or reads a file that was too large to be
# read within a request.
ImportJob = Struct.new(:import_id) do
  def self.file(import_id) = Settings.var("uploads", import_id.to_s)

  def perform
    import = Import.find(import_id)
    return import.update!(state: "stopped") if import.stopping?
    return Fetching.new(import).call if Fetching::KINDS.include?(import.kind)

    read(import)
  end

  def error(_job, error)
    Import.where(id: import_id).update_all(state: "failed", problem: NoRoom.sentence(error, "The import"))
  end

  private

  def read(import)
    file = self.class.file(import.id)
    importing = Importing.of(import.kind)
    importing.new(
      import.workspace,
      importing.content(file),
      filename: import.filename,
      kind: import.kind,
      source: import.source,
      options: import.options,
      import: import
    ).call
  rescue Orvant::Error => error
    import.update!(state: "failed", problem: error.message)
  ensure
    FileUtils.rm_f(file)
  end
end
