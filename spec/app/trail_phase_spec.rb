# frozen_string_literal: true

require_relative "../app_helper"

RSpec.describe TrailPhase, :demo do
  # Judging may follow a corrected address, which lets other fibers run; one of them may store what waits and begin a new list.
  it "loses no link whose judging lets another fiber store the batch" do
    workspace = Workspace.find_by!(name: "skerry-line")
    links = workspace.links.swept.where(host: "www.skerryline.example").limit(6)
    sweep = Sweep.begin!(workspace, scope: {"links" => links.ids, "pages" => [], "rehearsals" => []})
    stub_const("TrailPhase::BATCH", 1)
    judged = 0
    allow_any_instance_of(LinkJudge).to receive(:call).and_wrap_original do |judge, link, trails|
      # The first to come waits until the others have been judged and stored.
      until (judged += 1) > 5 || link.id != links.first.id
        Async::Task.current.yield
      end
      judge.call(link, trails)
    end

    described_class.new(sweep).call
    expect(sweep.link_trails.pluck(:link_id)).to match_array(links.ids)
    expect(sweep.reload.done).to eq(6)
  end
end
