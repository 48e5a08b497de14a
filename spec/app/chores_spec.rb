# frozen_string_literal: true

require_relative "../app_helper"

RSpec.describe Chores, :empty do
  it "does the others where one trips, and the worker goes on" do
    workspace = Founding.call(title: "Here", own_hosts: ["a.test"])
    person = Person.create!(name: "Ann", mail: "ann@example.test", password_digest: "x")
    SignIn.create!(person: person, digest: "x", seen_at: 40.days.ago, created_at: 40.days.ago)
    PreparedFile.create!(workspace: workspace, kind: "bundle", state: "done", created_at: 3.days.ago)
    old = Settings.var("bundles", "received-x").tap { |file| File.write(file, "x") && File.utime(2.days.ago.to_time, 2.days.ago.to_time, file) }
    FileUtils.rm_f(Settings.var("thinned"))
    allow(LeftUndone).to receive(:take_up).and_raise(NoMethodError, "undefined")
    expect { described_class.new.call }.to output(/A chore: NoMethodError/).to_stderr
    expect([SignIn.count, PreparedFile.count, File.exist?(old), File.exist?(Settings.var("thinned"))]).to eq([0, 0, false, true])
  end
end
