# frozen_string_literal: true

# Runs a sweep in the worker. Its only argument is a number, so it survives any restart; it may run twice,
# since the sweep does nothing that is stored already.
SweepJob = Struct.new(:sweep_id) do
  def perform
    sweep = Sweep.find(sweep_id)
    return sweep.put_off if !sweep.stopping? && AdRereading.under_way?(sweep.workspace)

    SweepRun.new(sweep).call
  end

  # A sweep that failed says so itself, and can be resumed.
  def error(_job, error)
    Sweep.where(id: sweep_id).update_all(state: "failed", problem: NoRoom.sentence(error, "The sweep"))
  end
end
