# frozen_string_literal: true

# For resources that begin sweeps: one at a time in a workspace.
module BeginsSweeps
  private

  def begin_sweep(**facts)
    raise Problem.new(:already_running) if workspace.active_sweep

    status 201
    json(Sweep.begin!(workspace, **facts).as_document)
  end
end
