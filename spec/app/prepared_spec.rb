# frozen_string_literal: true

require_relative "../app_helper"

# What takes longer than a request may is made by the worker, and fetched by whoever has asked.
RSpec.describe PreparedFile, :api do
  include_context "people"

  before { LinkImporting.new(@here, "address,kind\n" + Array.new(60) { |number| "http://a.test/?utm_source=s#{number % 3}&utm_campaign=c,ad" }.join("\n"), filename: "a.csv").call }

  {"/convention/learn" => ["POST", {}], "/convention/preview" => ["POST", {document: Founding::PLAIN.merge("name" => "x", "own_hosts" => ["a.test"])}], "/traffic/claims" => ["GET", nil]}.each do |path, (method, body)|
    it "answers #{method} #{path} the same where there is much" do
      ann = found
      bob = join("bob@example.test", "owner", by: ann)
      whole = "/api/workspaces/here#{path}"
      at_once = ask(method, whole, body, browser: ann)
      stub_const("PreparedFile::LARGE", {"learning" => 1, "effect" => 1, "claims" => 0})
      status, waiting = ask(method, whole, body, browser: ann)
      expect([at_once.first, status, waiting["state"]]).to eq([200, 202, "waiting"])
      content = "/api/workspaces/here/prepared/#{waiting["id"]}/content"
      expect(ask("GET", content, browser: ann).last["kind"]).to eq("not_ready")
      Delayed::Worker.new(quiet: true).work_off(20)
      expect(ask("GET", content.delete_suffix("/content"), browser: ann).last["state"]).to eq("done")
      expect([ask("GET", content, browser: ann), ask("GET", content, browser: bob).first]).to eq([at_once, 404])
    end
  end

  it "makes what the same person waits for once: what they asked for before is wanted no more" do
    stub_const("PreparedFile::LARGE", {"learning" => 1})
    ann = found
    ids = Array.new(3) { ask("POST", "/api/workspaces/here/convention/learn", {}, browser: ann).last["id"] }
    expect(described_class.pluck(:id)).to eq([ids.last])
  end

  it "writes a whole workspace, once for all owners, and keeps it for a day" do
    ann = found
    take = ->(suffix = "") { ask("GET", "/api/workspaces/here/bundle#{suffix}", browser: ann) }
    expect(take.call.first).to eq(404)
    ids = Array.new(2) { ask("POST", "/api/workspaces/here/bundle", {}, browser: ann).last["id"] }
    expect([ids.uniq.size, take.call(".zip").first]).to eq([1, 409])
    Delayed::Worker.new(quiet: true).work_off(20)
    expect(take.call.last).to include("state" => "done", "problem" => nil)
    answer = Api.call(Rack::MockRequest.env_for("http://127.0.0.1/api/workspaces/here/bundle.zip", "HTTP_HOST" => "127.0.0.1", "HTTP_COOKIE" => "orvant_sign_in=#{ann}"))
    sent = [].tap { |parts| answer[2].each { |part| parts << part } }.join
    expect([answer[0], sent[0, 2]]).to eq([200, "PK"])
    described_class.update_all(created_at: 2.days.ago)
    described_class.tidy
    expect([take.call.first, Dir[Settings.var("prepared", "*")]]).to eq([404, []])
  end
end
