# frozen_string_literal: true

require_relative "../app_helper"

# A workspace goes out as one archive and comes in again, in another Orvant too, the same.
RSpec.describe Bundle, :swept do
  def out(workspace)
    file = File.join(Settings.var("bundles").tap { |path| FileUtils.mkdir_p(path) }, "#{SecureRandom.hex(4)}.zip")
    BundleWriter.new(workspace).write(file)
    file
  end

  # @return [Hash{String => String}] each part
  def parts(file) = Zip::File.open(file) { |zip| zip.entries.to_h { |entry| [entry.name, entry.get_input_stream.read] } }

  # @return [String] path of an archive with these parts
  def zip(parts)
    File.join(Dir.mktmpdir, "b.zip").tap { |file| Zip::OutputStream.open(file) { |zip| parts.each { |name, text| zip.put_next_entry(name) && zip << text } } }
  end

  # As the worker does it.
  # @return [BundleImport]
  def bring(file)
    Delayed::Job.delete_all
    copy = Settings.var("bundles", "sent.zip").tap { |path| FileUtils.cp(file, path) }
    BundleImport.begin!(copy, person: nil, filename: "b.zip").tap { Delayed::Worker.new(quiet: true).work_off(1) }.reload
  end

  def made_of(file) = bring(file).workspace || raise("not brought in")

  def counts = (ActiveRecord::Base.connection.tables - %w[schema_migrations ar_internal_metadata delayed_jobs bundle_imports]).to_h { |table| [table, ActiveRecord::Base.connection.select_value("SELECT COUNT(*) FROM #{table}")] }

  # What differs between two Orvants by its nature.
  def same(parts) = parts.except("digests.json")

  let(:workspace) { Workspace.find_by!(name: "skerry-line") }

  it "comes in beside what is there with the same parts, shows the same, and is written the same again" do
    workspace.signposts.first&.passes&.create!(at: Time.now, device: "phone")
    workspace.update!(networks: [{"network" => "Tidepost", "address" => "http://ads.tidepost.example/", "key" => "geheim"}])
    odd = ["=SUM(A1)", "'quoted", "two\nlines", "-1", "a,\"b\"", ""]
    workspace.sightings.order(:id).first(odd.size).zip(odd) { |sighting, place| sighting.update!(place: place) }
    file = out(workspace)
    bringing = bring(file)
    made = bringing.workspace
    expect(bringing.notes).to all(include("taken in another workspace"))
    first, second = same(parts(file)), same(parts(out(made)))
    expect(second.keys).to eq(first.keys)
    differing = first.keys.reject { |name| first[name].b == second[name].b }
    expect(differing - %w[workspace.json signposts.csv]).to eq([])
    expect(first.values.join.b).not_to include("geheim")
    expect(made.links.joins(:sightings).pluck("sightings.place")).to include(*odd)
    ExplainJob.new(made.id).perform
    ExplainJob.new(workspace.id).perform
    summaries = [workspace, made].map { |one| WorkspaceSummary.new(one.reload).document.slice("stops", "waived", "over_all") }
    expect(summaries.last).to eq(summaries.first)
  end

  it "comes into an empty Orvant byte by byte the same" do
    file = out(workspace)
    DemoFixture.clear
    bringing = bring(file)
    expect([bringing.notes, bringing.done]).to eq([[], bringing.total])
    expect(parts(out(bringing.workspace))).to eq(parts(file))
  ensure
    DemoFixture.swept
  end

  it "keeps nothing of what it cannot use, and says where it is wrong" do
    small = Founding.call(title: "Small", own_hosts: ["a.test"])
    LinkImporting.new(small, "address,kind\nhttp://a.test/,ad\n", filename: "a.csv").call
    good = same(parts(out(small)))
    faults = {
      "this is no archive" => ["x" * 400, /no bundle/],
      "an archive cut off" => [File.binread(out(small))[0..2_000], /no bundle/],
      "an entry that climbs" => [good.merge("../../evil.rb" => "boom"), %r{“../../evil.rb” is no part}],
      "no head" => [good.except("workspace.json"), /lacks workspace.json/],
      "a head that is none" => [good.merge("workspace.json" => "[1]"), /no JSON object/], "fields that are none" => [good.merge("workspace.json" => JSON.generate(JSON.parse(good["workspace.json"]).merge("expected_fields" => [{"page" => 1}]))), /expected_fields/],
      "a newer Orvant's" => [good.merge("workspace.json" => JSON.generate(JSON.parse(good["workspace.json"]).merge("format" => 99, "orvant" => "7.1"))), /format 99, written by Orvant 7.1.*bring Orvant up to date/],
      "settings that nobody could save" => [good.merge("workspace.json" => JSON.generate(JSON.parse(good["workspace.json"]).merge("signatures" => 7))), /workspace.json: signatures/],
      "parts that were changed" => [good.merge("digests.json" => JSON.generate("links.csv" => {"sha256" => "0" * 64})), /links.csv is not as it was written/],
      "parts that were taken out" => [good.merge("digests.json" => JSON.generate("lists.csv" => {"sha256" => "0" * 64})), /lists.csv is missing/],
      "a row twice" => [good.merge("links.csv" => good["links.csv"] + good["links.csv"].lines.last), /links.csv, row 2: 1 numbers another row/],
      "the same twice" => [good.merge("labels.csv" => "number,link_id,label\n1,1,a\n2,1,a\n"), /two of its rows are the same/],
      "a sign that cannot be stored" => [good.merge("labels.csv" => "number,link_id,label\n1,1,a\0b\n"), /labels.csv, row 1: label/],
      "a document of another shape" => [good.merge("imports.csv" => good["imports.csv"].sub("[]", '"[[7]]"')), /imports.csv, row 1: \w+.* is not as Orvant writes it/],
      "no rules" => [good.except("conventions.json"), /needs one/],
      "broken rules" => [good.merge("conventions.json" => JSON.generate(JSON.parse(good["conventions.json"]).each { |one| one["document"].delete("roles") })), /roles/],
      "a row that names none" => [good.merge("labels.csv" => "number,link_id,label\n1,x,a\n"), /labels.csv, row 1/],
      "a kind that is none" => [good.merge("links.csv" => good["links.csv"].sub(/,(ad|print|message|post|page),/, ",<script>,")), /links.csv, row \d+: kind/],
      "a picture that is none" => [good.merge("pictures/1-1/step-9.png" => "<svg onload=alert(1)>"), /no picture/],
      "bytes that are no text" => [good.merge("labels.csv" => "number,link_id,label\n1,1,\xFF\xFE\n".b), /labels.csv|no bundle/]
    }
    before = counts
    said = faults.to_h do |name, (given, _)|
      file = given.is_a?(Hash) ? zip(given) : File.join(Dir.mktmpdir, "b.zip").tap { |path| File.binwrite(path, given) }
      [name, bring(file).then { |one| [one.state, one.workspace_id, one.problem, File.exist?(one.file)] }]
    end
    faults.each { |name, (_, expected)| expect([name, said[name]]).to match([name, ["failed", nil, expected, false]]) }
    expect(counts).to eq(before)
  end

  # The parts of the demo that a part names, and those that these name.
  def with(*files)
    all = @all ||= same(parts(out(workspace)))
    needed = files.flat_map { |file| [file, *Bundle.parts.find { |part| part.file == file }.refs.values.map { |model| Bundle.file_of(model) }] }.uniq
    (needed.sort == files.sort) ? all.slice("workspace.json", "conventions.json", *files) : with(*needed)
  end

  # What a row names stands in the bundle; what stands in the database is none of its business.
  it "takes no row of another's for what a column names" do
    forged = Bundle.parts.flat_map { |part| part.refs.keys.map { |column| [part, column] } }.to_h do |part, column|
      good = with(part.file, "links.csv", "rehearsals.json")
      table = CSV.parse(good[part.file], headers: true)
      foreign = part.refs[column].maximum(:id).to_i + 1
      table[table.size / 2][column] = foreign if table.any?
      said = table.any? ? bring(zip(good.merge(part.file => table.to_csv))).problem : "empty"
      [[part.file, column], said.sub(/row \d+/, "row N").sub(foreign.to_s, "F")]
    end
    expect(forged.count { |_, said| said != "empty" }).to be > 20
    forged.each do |(file, column), said|
      expect(said).to eq("#{file}, row N: #{column} names row F of #{Bundle.file_of(Bundle.parts.find { |part| part.file == file }.refs[column])}, which is not there.").or eq("empty")
    end
    expect(Workspace.where.not(state: "open")).to be_empty
  end

  it "takes no number of another's inside a document" do
    Waiver.grant!(workspace.findings.standing.where.not(link_id: nil).first, reason: "x", ends: Date.current + 9)
    {"sweeps.csv" => ["scope", ->(scope) { scope.merge("links" => [99_999]) }],
     "findings.csv" => ["place", ->(place) { place.merge("links" => [99_999]) }],
     "fixes.csv" => ["proof", ->(_) { {"sweep_id" => 99_999} }],
     "waivers.csv" => ["subject", ->(_) { "link 99999" }],
     "rehearsals.json" => ["document", ->(document) { document.merge("steps" => [{"open" => {"link" => 99_999}}, *document["steps"]]) }],
     "questions.json" => ["settings", ->(settings) { settings.merge("rehearsals" => {"x" => {"steps" => [{"open" => {"link" => 99_999}}]}}) }]}.each do |file, (column, forge)|
      good = with(file, "links.csv")
      rows = file.end_with?(".json") ? JSON.parse(good[file]) : CSV.parse(good[file], headers: true)
      plain = file.end_with?(".json") || column == "subject"
      rows.first[column] = plain ? forge.call(rows.first[column]) : JSON.generate(forge.call(JSON.parse(rows.first[column] || "{}")))
      bringing = bring(zip(good.merge(file => file.end_with?(".json") ? JSON.generate(rows) : rows.to_csv)))
      expect([file, bringing.state, bringing.problem]).to match([file, "failed", /\A#{file}, row 1: a document of it names row 99999 of/])
    end
  end

  it "is seen by nobody until it is whole, and is begun anew where the worker was ended meanwhile" do
    file = out(workspace)
    Delayed::Job.delete_all
    bringing = BundleImport.begin!(Settings.var("bundles", "sent.zip").tap { |path| FileUtils.cp(file, path) }, person: nil)
    seen, tries = nil, 0
    allow(Combination).to receive(:renew).and_wrap_original do |renew, *arguments|
      seen ||= [Workspace.shown.count, Workspace.count, bringing.reload.as_document.values_at("state", "workspace")]
      raise SignalException, "KILL" if (tries += 1) == 1

      renew.call(*arguments)
    end
    expect { BundleImportJob.new(bringing.id).perform }.to raise_error(SignalException)
    before = Workspace.shown.count
    expect(seen).to eq([before, before + 1, ["running", nil]])
    LeftUndone.take_up
    Delayed::Worker.new(quiet: true).work_off(9)
    made = bringing.reload.workspace
    expect([bringing.state, Workspace.count, made.links.count]).to eq(["done", before + 1, workspace.links.count])
    Closing.new(made).call
    Delayed::Worker.new(quiet: true).work_off(9)
    expect(Workspace.count).to eq(before)
  end

  it "gives up what has ended three workers, and stops when it is told to" do
    file = out(workspace)
    send = -> { BundleImport.begin!(Settings.var("bundles", "sent.zip").tap { |path| FileUtils.cp(file, path) }, person: nil) }
    given_up = send.call.tap { |one| one.update!(state: "running", begun: 3) }
    stopped = send.call.tap(&:stop)
    [given_up, stopped].each { |one| BundleImportJob.new(one.id).perform }
    expect([given_up, stopped].map { |one| one.reload.then { |now| [now.state, now.problem.to_s[0, 21], now.workspace_id] } })
      .to eq([["failed", "Orvant was ended 3 ti", nil], ["stopped", "", nil]])
  end

  it "takes one of an earlier format, in which what was found again counted as absent, as it is meant" do
    sweep = workspace.sweeps.finished_whole.last
    now = workspace.findings.where(sweep: sweep).where.not(link_id: nil).first
    before = now.dup.tap { |one| one.update!(sweep_id: workspace.sweeps.minimum(:id), absent_in_id: sweep.id, current: false) }
    gone = now.dup.tap { |one| one.update!(root: "gone", sweep_id: workspace.sweeps.minimum(:id), absent_in_id: sweep.id, current: false) }
    old = same(parts(out(workspace)))
    findings = CSV.parse(old["findings.csv"], headers: true).tap { |table| table.delete("superseded_in_id") }
    head = JSON.parse(old["workspace.json"]).merge("format" => 1, "host_map" => {"inside.test" => "10.0.0.1:80", "here.test" => "127.0.0.1:80"})
    bringing = bring(zip(old.merge("findings.csv" => findings.to_csv, "workspace.json" => JSON.generate(head))))
    made = bringing.workspace.findings
    expect([made.where.not(superseded_in_id: nil).count, made.where.not(absent_in_id: nil).pluck(:root)]).to eq([workspace.findings.where.not(superseded_in_id: nil).count + 1, workspace.findings.where.not(absent_in_id: nil).where.not(id: before.id).pluck(:root)])
    expect([bringing.workspace.host_map.keys, bringing.notes.grep(/inside.test is mapped to 10.0.0.1:80/).size]).to eq([["here.test"], 1])
  ensure
    [before, gone].each { |one| one&.destroy }
  end

  it "leaves addresses of people out of deeds" do
    Deed.note(workspace, "ann@example.test invited, as reader")
    deeds = parts(out(workspace))["deeds.csv"]
    expect([deeds.include?("somebody invited, as reader"), deeds.include?("ann@example.test")]).to eq([true, false])
  end

  it "unpacks no more than it must, and holds no row that is larger than any" do
    small = same(parts(out(workspace))).slice("workspace.json", "conventions.json")
    rows = "number,link_id,label\n#{"1,1,#{"a" * 100}\n" * 20_000}"
    stub_const("BundleArchive::MOST_PART", 1_000_000)
    expect(bring(zip(small.merge("labels.csv" => rows))).problem).to include("larger than Orvant unpacks")
    stub_const("BundleArchive::MOST_PART", 1_000_000_000)
    stub_const("BundleArchive::MOST_ROW", 100_000)
    expect(bring(zip(small.merge("labels.csv" => "number,link_id,label\n1,1,\"#{"a\n" * 200_000}"))).problem).to include("labels.csv, row 1: it is larger")
    expect(bring(zip(small.merge("labels.csv" => "number,link_id,label\n1,1,#{"," * 90_000}\n"))).problem).to include("row 1: it has more cells")
  end

  it "waits for what is under way" do
    sweep = Sweep.begin!(workspace)
    expect { out(workspace) }.to raise_error(Orvant::Error, /under way/)
  ensure
    sweep.destroy
  end
end
