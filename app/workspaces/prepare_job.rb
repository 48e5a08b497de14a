# frozen_string_literal: true

# Writes a prepared file in the worker.
PrepareJob = Struct.new(:prepared_file_id) do
  def perform = PreparedFile.where(state: PreparedFile::ACTIVE).find_by(id: prepared_file_id)&.write

  def error(_job, error)
    PreparedFile.where(id: prepared_file_id).update_all(state: "failed",
      problem: NoRoom.sentence(error, "The file"))
  end
end
