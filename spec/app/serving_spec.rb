# frozen_string_literal: true

require_relative "../app_helper"

# What is kept goes into one archive and comes back; workers that die are not waited for.
RSpec.describe Backup, :demo do
  next if ENV.key?("DATABASE_URL") # PostgreSQL has tools of its own.

  let(:workspace) { Workspace.find_by!(name: "skerry-line") }
  let(:file) { File.join(SPEC_VAR, "all.zip") }

  after { FileUtils.rm_f(file) }

  def counts = [Link.count, Sighting.count, LinkTrail.count, TrafficRow.count, Finding.count]

  # Restoring moves the database away under those who have it open.
  def restore(path = file)
    ActiveRecord::Base.connection_handler.clear_all_connections!
    described_class.restore(path)
  ensure
    Database.connect
  end

  def zip(**entries)
    FileUtils.rm_f(file)
    Zip::File.open(file, create: true) do |archive|
      entries.each { |name, bytes| archive.get_output_stream(name.to_s) { |out| out.write(bytes) } }
    end
  end

  it "brings back what was there in the middle of a sweep, whole" do
    File.write(Settings.var("pictures", "1", "1", "step-1.png"), "a picture")
    some = workspace.links.order(:id).limit(30).ids
    sweep = Sweep.begin!(workspace, scope: {"links" => some, "pages" => [], "rehearsals" => []})
    Delayed::Job.delete_all
    runner = Thread.new { SweepRun.new(sweep).call }
    Thread.pass until LinkTrail.where(sweep: sweep).count.positive?
    described_class.write(file)
    runner.join
    after = counts

    before = restore
    expect(Dir.children(before)).to include("orvant.sqlite3", "pictures")
    expect(LinkTrail.where(sweep_id: sweep.id).count).to be_between(1, sweep.chosen_links.count)
    expect(Sweep.find(sweep.id).state).to eq("running")
    expect(File.read(Settings.var("pictures", "1", "1", "step-1.png"))).to eq("a picture")
    expect(Finding.where.not(sweep_id: [nil, *Sweep.ids])).to be_empty

    # It goes on where it was, and comes to the same end.
    SweepRun.new(Sweep.find(sweep.id)).call
    expect(counts).to eq(after)
  end

  it "changes nothing for an archive that is none, cut off, damaged, or climbs out of its folder" do
    described_class.write(file)
    whole = File.binread(file)
    before = counts
    bad = {
      "no archive at all" => /cannot be read/, whole[0, whole.bytesize / 2] => /cannot be read/, whole[-100..] => /cannot be read|no backup/
    }
    bad.each do |bytes, reason|
      File.binwrite(file, bytes)
      expect { restore }.to raise_error(Orvant::Error, reason)
    end
    zip("orvant.sqlite3": "no database")
    expect { restore }.to raise_error(Orvant::Error, /damaged/)
    zip("orvant.sqlite3": "x", "../../escaped": "x")
    expect { restore }.to raise_error(Orvant::Error, /has no place/)
    zip(other: "x")
    expect { restore }.to raise_error(Orvant::Error, /no backup of Orvant/)
    expect(counts).to eq(before)
    expect(File.exist?(File.expand_path("../escaped", SPEC_VAR))).to be(false)
  end

  it "does not restore under a running Orvant" do
    described_class.write(file)
    File.open(Settings.var("serve.lock"), File::RDWR | File::CREAT) do |lock|
      lock.flock(File::LOCK_EX)
      expect { restore }.to raise_error(Orvant::Error, /is running/)
    end
  end
end

RSpec.describe Heartbeat, :empty do
  it "gives the work of a silent worker to the others, and leaves that of a living one" do
    %w[alive silent].each do |name|
      Delayed::Job.enqueue(ExplainJob.new(0))
        .update!(locked_by: name, locked_at: Time.now.utc, run_at: Time.now.utc)
    end
    Delayed::Job.enqueue(ExplainJob.new(0))
      .update!(locked_by: "unheard of", locked_at: Time.now.utc - described_class::DEAD - 1)
    described_class.create!(worker: "alive", at: Time.now.utc)
    described_class.create!(worker: "silent", at: Time.now.utc - described_class::DEAD - 1)
    described_class.bury_the_dead
    expect(Delayed::Job.order(:id).pluck(:locked_by)).to eq(["alive", nil, nil])
    expect(described_class.pluck(:worker)).to eq(%w[alive])
  end

  it "tells a proxy whether a worker is there" do
    described_class.delete_all
    health = -> { Rack::MockRequest.new(Api).get("/health", "HTTP_HOST" => "127.0.0.1") }
    expect([health.call.status, JSON.parse(health.call.body)["worker_seconds_ago"]]).to eq([503, nil])
    described_class.create!(worker: "one", at: Time.now.utc)
    expect([health.call.status, JSON.parse(health.call.body)["worker_seconds_ago"]]).to eq([200, 0])
    described_class.update_all(at: Time.now.utc - 60)
    expect(health.call.status).to eq(503)
  end
end
