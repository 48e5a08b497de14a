# frozen_string_literal: true

require_relative "../app_helper"

# Work is begun whole or not at all, waits without stopping others, and what a killed process leaves is taken
# up.
RSpec::Matchers.define_negated_matcher :not_include, :include

RSpec.describe "Work", :api, :demo do
  let(:workspace) { Workspace.first }

  def queued = Delayed::Job.where(failed_at: nil).pluck(:handler)

  # What a process leaves that is killed at the moment between storing and queueing.
  def killed_while_queueing
    allow(Delayed::Job).to receive(:enqueue).and_raise(Interrupt)
    yield
  rescue Interrupt
    nil
  end

  it "leaves nothing of a sweep or a fetch that was killed before it stood in the queue" do
    expect { killed_while_queueing { Sweep.begin!(workspace) } }.not_to change(Sweep, :count)
    expect { killed_while_queueing { post("/api/workspaces/skerry-line/imports/fetch", {}, ApiCalls::OWN.merge(input: JSON.generate("kind" => "pages", "addresses" => "http://a.test/"))) } }.not_to change(Import, :count)
    expect(workspace.active_sweep).to be_nil
  end

  it "takes up sweeps that nobody works on, and those in the queue once only" do
    sweep = Sweep.begin!(workspace)
    Delayed::Job.delete_all
    2.times { LeftUndone.take_up }
    expect(queued).to eq([Queues.text(SweepJob.new(sweep.id))])
  ensure
    Delayed::Job.delete_all
    sweep.update!(state: "stopped")
  end

  it "ends work that has ended three workers, and says so; those that were told to end do not count" do
    sweep = Sweep.begin!(workspace)
    job = Delayed::Job.find_by!(handler: Queues.text(SweepJob.new(sweep.id)))
    job.update!(attempts: 3, locked_by: "worker-1", locked_at: Time.now)
    Queues.forgive("worker-1")
    expect(job.reload.attempts).to eq(2)

    job.update!(attempts: 3, locked_by: nil, locked_at: nil)
    Delayed::Worker.new(quiet: true).work_off(1)
    expect(sweep.reload).to have_attributes(state: "failed", problem: /broken off: .* ended 3 times/)
    expect { LeftUndone.take_up }.not_to change { queued }
  ensure
    Delayed::Job.delete_all
  end

  it "ends an import whose process was killed, with its reason, and leaves one alone that goes on" do
    make = ->(at) {
      workspace.imports.create!(kind: "links", filename: "x.csv", source: "", options: {}, state: "running", rejected: [], notes: [])
        .tap { |one| one.update_columns(updated_at: at) }
    }
    killed, going_on = make.call(2.minutes.ago), make.call(Time.now.utc)
    LeftUndone.take_up
    expect([killed, going_on].map { |one| one.reload.state }).to eq(%w[failed running])
    expect(killed.problem).to include("import the file again")
  ensure
    Import.where(filename: "x.csv").delete_all
  end

  it "reads a large file and explains what it changes while a sweep and a fetch wait for others" do
    sweep = Sweep.begin!(workspace)
    Delayed::Job.where("handler LIKE '%ExplainJob%'").delete_all
    fetched = call(:post, "/imports/fetch", body: JSON.generate("kind" => "pages", "addresses" => "http://a.test/"))
    file = call(:post, "/imports?kind=links&filename=beside.csv", body: "address,kind,found\n#{Array.new(900) { |number| "http://www.skerryline.example/beside?q=#{number},ad,#{"A place with a long name " * 5}" }.join("\n")}")
    inside = Serving.workers(1).values.filter_map { |environment| environment["ORVANT_QUEUES"] }
    Delayed::Worker.new(quiet: true, queues: inside).work_off
    expect([fetched, file].map { |one| Import.find(one["id"]).as_document.slice("state", "added") })
      .to eq([{"state" => "waiting", "added" => 0}, {"state" => "done", "added" => 900}])
    expect(queued).to contain_exactly(Queues.text(SweepJob.new(sweep.id)), Queues.text(ImportJob.new(fetched["id"])))
    expect(workspace.reload.explained_at).to be >= workspace.changed_at
  ensure
    Delayed::Worker.queues = []
    Delayed::Job.delete_all
    sweep.update!(state: "stopped")
    Import.where(id: fetched["id"]).delete_all
    ImportRemoval.new(Import.find(file["id"])).call
  end

  it "does what is due by the minute in one worker at a time" do
    done = 0
    allow(FollowedLog).to receive(:read_due) { done += 1 }
    first = Chores.new
    File.open(Settings.var("locks", "chores"), File::RDWR | File::CREAT) do |lock|
      lock.flock(File::LOCK_EX)
      Chores.new.call
    end
    expect(done).to eq(0)
    3.times { first.call }
    expect(done).to eq(1)
  end

  it "counts no link that arrives while it runs" do
    sweep = Sweep.begin!(workspace).tap(&:choose)
    total = sweep.total
    LinkImporting.new(workspace, "address,kind,found\nhttp://www.skerryline.example/just-came,ad,x\n", filename: "late.csv").call
    expect(sweep.reload.chosen_links.count + sweep.chosen_scripts.count).to eq(total)
    expect(LinkFeed.new(sweep).then { |feed| Array.new(total) { feed.next }.compact.map(&:address) }).not_to include(a_string_including("just-came"))
  ensure
    sweep.update!(state: "stopped")
    Delayed::Job.delete_all
    ImportRemoval.new(Import.find_by(filename: "late.csv")).call
  end

  it "lets other threads go on while one waits for a writer" do
    held, waiting = Queue.new, Queue.new
    write = ->(connection) { connection.execute("UPDATE workspaces SET title = title") }
    second = nil
    writer =
      Thread.new do
        ActiveRecord::Base.connection_pool.with_connection do |connection|
          connection.transaction do
            write.call(connection)
            held.push(true)
            waiting.pop
            Thread.pass until second.stop?
          end
        end
      end
    held.pop
    second =
      Thread.new do
        ActiveRecord::Base.connection_pool.with_connection do |connection|
          waiting.push(true)
          connection.transaction { write.call(connection) }
        end
      end
    # If the second waited with the interpreter's lock, the first could not end, and the second would give up.
    expect([writer, second].map(&:join)).to all(be_a(Thread))
  end

  it "keeps keys sealed by a file beside the database, and everything to its owner" do
    sealed = Secret.seal("tide-key")
    expect([sealed, Secret.seal(sealed)]).to all(eq(sealed).and(start_with("sealed:")))
    expect([Secret.unseal(sealed), Secret.unseal("plain")]).to eq(["tide-key", "plain"])
    expect(File.stat(Settings.var("secret.key")).mode.to_s(8)).to end_with("600")
    expect(Workspace.pluck(:networks).to_json).to include("sealed:").and not_include("harbour-key")
    expect(Dir[File.join(Settings["ORVANT_VAR"], "**/*")].reject { |file| (File.stat(file).mode & 0o077).zero? }).to eq([])
    File.write(Settings.var("secret.key"), SecureRandom.hex(32))
    expect { Secret.unseal(sealed) }.to raise_error(Orvant::Error, /Enter the key again/)
  end

  it "neutralises what a spreadsheet would compute, also behind a line feed and full-width" do
    cells = ["=1", "\n=1", " \t+1", "＝1", "－1", "@x", "-5", "-5.2", "a=b", "\r\n@x"]
    expect(cells.map { |cell| Orvant::Export::CSVTable.neutral(cell) != cell }).to eq([true, true, true, true, true, true, false, false, false, true])
  end

  # kind => a file of it, what it keeps, and the method at which the worker is ended
  {"links" => ["address,kind\n" + (0...700).map { |number| "http://www.skerryline.example/ended?i=#{number},ad" }.join("\n"), -> { Sighting }, LinkImporting, :keep_batch],
   "claims" => ["date,network,campaign,ad,clicks,cost,claimed\n" + (0...700).map { |number| "2026-11-01,n,c#{number},a,1,1,1" }.join("\n"), -> { Claim }, BesideImporting, :keep_batch],
   "traffic" => ["date,source,campaign,sessions\n" + (0...7_000).map { |number| "2026-10-02,ended #{number},c,1" }.join("\n"), -> { TrafficRow }, TrafficImporting, :flush]}.each do |kind, (file, rows, reader, part)|
    it "keeps each of the #{kind} once, and counts them rightly, where a worker is ended while it reads them" do
      import = Import.create!(workspace: workspace, kind: kind, filename: "x.csv", state: "waiting", rejected: [], notes: [])
      times = 0
      allow_any_instance_of(reader).to receive(part).and_wrap_original do |original, *arguments|
        original.call(*arguments)
        raise SignalException, "KILL" if (times += 1) == 2
      end
      counted = Array.new(2) do
        File.write(ImportJob.file(import.id), file)
        ImportJob.new(import.id).perform
      rescue SignalException
        [import.reload.added, rows.call.where(import_id: import.id).count]
      end
      expect(counted.first).to satisfy { |added, kept| added == kept && added.positive? }
      expect([rows.call.where(import_id: import.id).count, import.reload.added, import.already]).to eq([file.lines.size - 1, file.lines.size - 1, 0])
    end
  end
end
