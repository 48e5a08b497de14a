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
    Restore.call(path)
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
    ["no archive at all", whole[0, whole.bytesize / 2], whole[-100..], whole.dup.tap { |bytes| bytes[whole.bytesize / 3, 9] = "x" * 9 }].each do |bytes|
      File.binwrite(file, bytes)
      expect { restore }.to raise_error(Orvant::Error, /cannot be read|no backup|damaged/)
    end
    {{"orvant.sqlite3" => "no database"} => /damaged/, {"orvant.sqlite3" => "x", "../../escaped" => "x"} => /has no place/,
     {"orvant.sqlite3" => "x", "pictures/../../escaped" => "x"} => /has no place/, {"orvant.sqlite3" => "x", "bin/orvant" => "x"} => /has no place/,
     {"other" => "x"} => /no backup of Orvant/, {"orvant.sqlite3" => "x", "digests.json" => "[]"} => /says of itself/}.each do |entries, said|
      zip(**entries.transform_keys(&:to_sym))
      expect { restore }.to raise_error(Orvant::Error, said)
    end
    expect(counts).to eq(before)
    expect(File.exist?(File.expand_path("../escaped", SPEC_VAR))).to be(false)
    expect(Dir.exist?(Settings.var("restoring"))).to be(false)
  end

  # A database is taken only where it is Orvant's own.
  # what somebody has done to it => what is said
  {"DROP TABLE findings" => /The table findings/, "ALTER TABLE links DROP COLUMN look" => /The table links/,
   "ALTER TABLE people ADD COLUMN more" => /The table people/, "CREATE TABLE other (a)" => /The table other/,
   "DROP INDEX index_people_on_mail" => /The table people/,
   "CREATE TRIGGER t AFTER INSERT ON people BEGIN UPDATE people SET founder = 1; END" => /does things by itself/,
   "CREATE VIEW v AS SELECT 1" => /does things by itself/,
   "INSERT INTO schema_migrations VALUES ('29990101000000')" => /newer Orvant/,
   "DELETE FROM schema_migrations WHERE version LIKE '20261127%'" => /lacks some/,
   "DELETE FROM schema_migrations" => /lacks some/, "DROP TABLE schema_migrations" => /none of Orvant's/}.each do |done, said|
    it "refuses a database after #{done[0, 50]}" do
      described_class.write(file)
      database = File.join(Dir.mktmpdir, "d.sqlite3")
      Zip::File.open(file) { |archive| archive.extract("orvant.sqlite3", database) }
      SQLite3::Database.new(database).then { |one| one.execute(done) && one.close }
      zip("orvant.sqlite3": File.binread(database))
      expect { restore }.to raise_error(Orvant::Error, said)
    end
  end

  it "takes no jobs and no visits along, and makes the jobs anew of what is unfinished" do
    sweep = Sweep.begin!(workspace, scope: {"links" => [], "pages" => [], "rehearsals" => []})
    Delayed::Job.where(id: Delayed::Job.last.id).update_all(handler: "--- !ruby/object:Gem::Requirement {}")
    SignIn.create!(person: Person.create!(name: "A", mail: "a@example.test", password_digest: "x"), digest: "x", seen_at: Time.now)
    described_class.write(file)
    restore
    expect([Delayed::Job.count, SignIn.count]).to eq([0, 0])
    LeftUndone.take_up
    expect(Delayed::Job.pluck(:handler)).to include(Queues.text(SweepJob.new(sweep.id)))
    sweep.destroy
  end

  it "runs nothing that stands in the queue but its own jobs" do
    forged = ["--- !ruby/object:Gem::Requirement {}", JSON.generate(["Kernel", 1]), JSON.generate(["SweepJob", "x"]), "[]"].map do |text|
      Delayed::Job.enqueue(ExplainJob.new(0)).tap { |job| job.update_columns(handler: text) }.id
    end
    # A worker takes the next after one that is none.
    forged.each { Delayed::Worker.new(quiet: true).work_off(9) }
    expect(Delayed::Job.where(id: forged).where.not(failed_at: nil).count).to eq(4)
    Delayed::Job.where(id: forged).delete_all
  end

  # Wherever it is killed, what is there afterwards is the old or the new, whole.
  it "leaves the old or the new, wherever it is killed" do
    FileUtils.mkdir_p(Settings.var("recordings"))
    File.write(Settings.var("recordings", "1.har.gz"), "of the backup")
    described_class.write(file)
    ActiveRecord::Base.connection_handler.clear_all_connections!
    now = -> { [Digest::SHA256.file(Settings.var("orvant.sqlite3")).hexdigest, File.read(Settings.var("recordings", "1.har.gz"))] }
    outcomes = (1..15).map do |deadline|
      File.write(Settings.var("recordings", "1.har.gz"), "of now #{deadline}")
      old = now.call
      child = fork do
        renamed = 0
        File.singleton_class.prepend(Module.new { define_method(:rename) { |*names| ((renamed += 1) == deadline) ? Process.kill("KILL", Process.pid) : super(*names) } })
        Restore.call(file)
        exit!(0)
      end
      Process.wait(child)
      Restore.finish_alone
      (now.call == old) ? "old" : now.call.last
    end
    expect(outcomes.uniq).to contain_exactly("old", "of the backup")
    expect(outcomes.chunk_while { |one, other| one == other }.map(&:first)).to eq(["old", "of the backup"])
  ensure
    Database.connect
  end

  it "keeps two restores of one second apart" do
    described_class.write(file)
    expect(Array.new(2) { restore }.uniq.size).to eq(2)
  end

  it "keeps all that Orvant keeps, or says why not" do
    told = Dir[File.join(ROOT, "{app,config,bin,demo,lib}/**/*")].select { |path| File.file?(path) }
      .flat_map { |path| File.read(path).scan(/Settings\.var\("([^"#]+)"/).flatten }.uniq
    known = [Backup::DATABASE, *Backup::BESIDE, *Backup::LEFT_OUT.keys]
    expect(told - known).to eq([])
    expect(told.size).to be > 12
  end

  it "does not begin as an empty Orvant where there was one" do
    described_class.write(file)
    [["bin/migrate"], ["bin/orvant", "restore", file]].each do |made|
      folder = Dir.mktmpdir
      run = ->(program, *arguments) { Open3.capture2e({"ORVANT_VAR" => folder}, RbConfig.ruby, File.join(ROOT, program), *arguments) }
      expect(run.call(*made).last).to be_success
      FileUtils.rm_f(File.join(folder, "orvant.sqlite3"))
      said, status = run.call("bin/migrate")
      expect([status.success?, said]).to match([false, /no database in .*though there was one.*bin\/orvant restore/])
      expect(run.call("bin/orvant", "invite").last).not_to be_success
    end
  end

  it "takes a damaged database for none of its own, in words" do
    folder = Dir.mktmpdir
    ["no database at all, but text", "SQLite format 3\0#{"\xFF" * 8_000}"].each do |damaged|
      File.binwrite(File.join(folder, "orvant.sqlite3"), damaged)
      [["bin/migrate"], ["bin/orvant", "invite"], ["bin/orvant", "backup", "#{folder}/b.zip"]].each do |program, *arguments|
        said, status = Open3.capture2e({"ORVANT_VAR" => folder}, RbConfig.ruby, File.join(ROOT, program), *arguments)
        expect([status.success?, said.lines.size, said]).to match([false, 1, /is damaged|cannot be read .*bin\/orvant restore/])
      end
    end
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

  it "ends a worker that is told to, though what it keeps is gone" do
    folder = Dir.mktmpdir
    environment = {"ORVANT_VAR" => File.join(folder, "var"), "DATABASE_URL" => nil}
    quiet = {chdir: ROOT, out: File::NULL, err: File::NULL}
    system(environment, RbConfig.ruby, "bin/migrate", **quiet)
    worker = Process.spawn(environment, RbConfig.ruby, "bin/worker", **quiet)
    database = SQLite3::Database.new(File.join(folder, "var", "orvant.sqlite3"))
    Timeout.timeout(60) { Thread.pass until database.get_first_value("SELECT COUNT(*) FROM heartbeats").positive? }
    database.close
    FileUtils.rm_rf(folder)
    FileUtils.touch(folder) # Nobody makes it again.
    Process.kill("TERM", worker)
    expect(Timeout.timeout(20) { Process.wait2(worker).last }).to be_success
  ensure
    FileUtils.rm_rf(folder)
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
