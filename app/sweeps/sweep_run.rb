# frozen_string_literal: true

# Takes a sweep through its phases: trails, and beside them what a browser must look at, then pages and
# rehearsals, then the fixes that follow from what was found.
class SweepRun
  # What comes after the trails.
  PHASES = {
    "looks" => ->(sweep) { LookPhase.new(sweep).call },
    "pages" => ->(sweep) { sweep.workspace.tell("sweep.followed", sweep: sweep) },
    "explaining" => ->(sweep) { InventoryPhase.new(sweep).call }
  }.freeze

  # @param sweep [Sweep]
  def initialize(sweep)
    @sweep = sweep
  end

  # Runs until all is done or a person stops it; goes on where an earlier run ended.
  def call
    return if @sweep.reload.state == "done"
    return finish("stopped") if @sweep.stopping?

    @sweep.choose
    @sweep.update!(
      state: "running",
      started_at: @sweep.started_at || Time.now.utc,
      question: Question.now(@sweep.workspace)
    )
    LookAhead.beside(@sweep) { run("trails", ->(sweep) { TrailPhase.new(sweep).call }) }
    PHASES.each { |name, phase| run(name, phase) unless @sweep.stopping? }
    finish(@sweep.stopping? ? "stopped" : "done")
  end

  private

  def run(name, phase)
    @sweep.update_columns(phase: name)
    phase.call(@sweep)
  end

  def finish(state)
    Waiver.apply(@sweep.workspace)
    @sweep.workspace.tell("sweep.done") if state == "done"
    @sweep.reload.update!(state: state, finished_at: Time.now.utc)
  end
end
