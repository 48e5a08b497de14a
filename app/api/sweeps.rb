# frozen_string_literal: true

class Api
  helpers do
    def one_sweep = workspace.sweeps.find(params["id"])

    def begin_sweep(**facts)
      raise Problem.new(:already_running) if workspace.active_sweep

      status 201
      json(Sweep.begin!(workspace, **facts).as_document)
    end
  end

  get "/api/workspaces/:workspace/sweeps" do
    json("sweeps" => workspace.sweeps.order(id: :desc).limit(50).map(&:as_document))
  end

  post "/api/workspaces/:workspace/sweeps" do
    raise Problem.new(:unusable_input, "There are no links to sweep yet: import some first.") if workspace.links.live.none?

    begin_sweep
  end

  get "/api/workspaces/:workspace/sweeps/:id" do
    json(one_sweep.as_document)
  end

  post "/api/workspaces/:workspace/sweeps/:id/stop" do
    one_sweep.stop
    json(one_sweep.as_document)
  end

  post "/api/workspaces/:workspace/sweeps/:id/resume" do
    active = workspace.active_sweep
    raise Problem.new(:already_running) if active && active.id != one_sweep.id

    one_sweep.resume
    json(one_sweep.as_document)
  end
end
