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

  def counts = (ActiveRecord::Base.connection.tables - %w[schema_migrations ar_internal_metadata delayed_jobs]).to_h { |table| [table, ActiveRecord::Base.connection.select_value("SELECT COUNT(*) FROM #{table}")] }

  let(:workspace) { Workspace.find_by!(name: "skerry-line") }

  it "comes in beside what is there with the same parts, shows the same, and is written the same again" do
    workspace.signposts.first&.passes&.create!(at: Time.now, device: "phone")
    workspace.update!(networks: [{"network" => "Tidepost", "address" => "http://ads.tidepost.example/", "key" => "geheim"}])
    odd = ["=SUM(A1)", "'quoted", "two\nlines", "-1", "a,\"b\"", ""]
    workspace.sightings.order(:id).first(odd.size).zip(odd) { |sighting, place| sighting.update!(place: place) }
    file = out(workspace)
    made, notes = BundleReader.new(file).call
    expect(notes).to all(include("taken in another workspace"))
    first, second = parts(file), parts(out(made))
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
    made, notes = BundleReader.new(file).call
    expect(notes).to eq([])
    expect(parts(out(made))).to eq(parts(file))
  ensure
    DemoFixture.swept
  end

  it "keeps nothing of what it cannot use, and says where it is wrong" do
    small = Founding.call(title: "Small", own_hosts: ["a.test"])
    LinkImporting.new(small, "address,kind\nhttp://a.test/,ad\n", filename: "a.csv").call
    good = parts(out(small))
    faults = {
      "this is no archive" => ["x" * 400, /no bundle/],
      "an archive cut off" => [File.binread(out(small))[0..2_000], /no bundle/],
      "an entry that climbs" => [good.merge("../../evil.rb" => "boom"), %r{“../../evil.rb” is no part}],
      "no head" => [good.except("workspace.json"), /lacks workspace.json/],
      "a head that is none" => [good.merge("workspace.json" => "[1]"), /no bundle/], "fields that are none" => [good.merge("workspace.json" => JSON.generate(JSON.parse(good["workspace.json"]).merge("expected_fields" => [{"page" => 1}]))), /expected_fields/],
      "another format" => [good.merge("workspace.json" => JSON.generate(JSON.parse(good["workspace.json"]).merge("format" => 99))), /format 99/],
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
      BundleReader.new(file).call
      [name, "taken"]
    rescue Orvant::Error => error
      [name, error.message]
    end
    faults.each { |name, (_, expected)| expect([name, said[name]]).to match([name, expected]) }
    expect(counts).to eq(before)
  end

  it "unpacks no more than it must" do
    stub_const("BundleReader::MOST_PART", 1_000_000)
    expect { BundleReader.new(zip(parts(out(workspace)).slice("workspace.json", "conventions.json").merge("labels.csv" => "number,link_id,label\n" + "1,1,#{"a" * 100}\n" * 20_000))).call }.to raise_error(Orvant::Error, /larger than Orvant unpacks/)
  end

  it "waits for what is under way" do
    sweep = Sweep.begin!(workspace)
    expect { out(workspace) }.to raise_error(Orvant::Error, /under way/)
  ensure
    sweep.destroy
  end
end
