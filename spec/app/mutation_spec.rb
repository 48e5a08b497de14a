# frozen_string_literal: true

require_relative "../app_helper"

# Bundles, backups and files as nobody wrote them, made by chance of good ones: each is taken or refused in words,
# nothing of another's is read or written, and memory stays bounded. Few always, many in `bin/test long`.
RSpec.describe "What comes in, changed by chance", :api, :demo do
  seed = Integer(ENV.fetch("ORVANT_SEED", 20_261_202))
  long = ENV.key?("ORVANT_LONG")
  # Megabytes that reading may add to this process.
  room = 1_000

  let(:chance) { Random.new(seed) }
  let(:workspace) { Workspace.find_by!(name: "skerry-line") }

  hostile = ["", "0", "-1", "9" * 30, "x" * 70_000, "a\0b", "\xFF\xFE".b, "[]", "{}", "null", "[[[[7]]]]", "{\"links\":[1,2,3]}", "'=1+1", "../../etc/passwd", "<script>", "1", "2", "77", "http://a.test/", "true", "2026-02-30", "open", "breaks"]

  def memory = File.read("/proc/self/status")[/VmRSS:\s+(\d+)/, 1].to_i / 1024

  def parts(file) = Zip::File.open(file) { |zip| zip.entries.to_h { |entry| [entry.name, entry.get_input_stream.read] } }

  def zipped(parts) = Zip::OutputStream.write_buffer { |out| parts.each { |name, text| out.put_next_entry(name) && out << text } }.string

  # @return [String] bytes of an archive
  def mutated(parts, hostile)
    parts = parts.dup
    chance.rand(1..3).times do
      name = parts.keys.sample(random: chance)
      parts[name] = change(name, parts[name].dup, hostile)
    end
    bytes = zipped(parts)
    bytes.setbyte(chance.rand(bytes.bytesize), chance.rand(256)) if chance.rand(6).zero?
    (chance.rand(12).zero? ? bytes[0, chance.rand(bytes.bytesize)] : bytes)
  end

  def change(name, text, hostile)
    value = hostile.sample(random: chance)
    return text.sub(/"[^"]*"/n) { JSON.generate(value.dup.force_encoding("UTF-8").scrub) } if name.end_with?(".json") && chance.rand(3).zero?
    return text.gsub(/\b\d+\b/n) { |number| chance.rand(10).zero? ? hostile.sample(random: chance).b : number } if name.end_with?(".json")

    rows = CSV.parse(text.force_encoding("UTF-8"))
    return text if rows.size < 2

    row = rows.sample(random: chance)
    case chance.rand(4)
    when 0 then rows << row
    when 1 then rows.delete_at(chance.rand(rows.size))
    else row[chance.rand(row.size)] = value
    end
    rows.map { |one| one.map { |cell| cell.nil? ? "" : "\"#{cell.b.gsub('"', '""')}\"" }.join(",") }.join("\n")
  end

  def state(workspace)
    connection = ActiveRecord::Base.connection
    (connection.tables - %w[asked_periods period_sums]).select { |table| connection.column_exists?(table, :workspace_id) }
      .to_h { |table| [table, connection.select_rows("SELECT * FROM #{table} WHERE workspace_id = #{workspace.id} ORDER BY 1").hash] }
  end

  # What its screens ask for.
  def shown(workspace)
    ids = {"links" => workspace.links.minimum(:id), "fixes" => workspace.fixes.minimum(:id), "sweeps" => workspace.sweeps.minimum(:id), "imports" => workspace.imports.minimum(:id), "sheets" => workspace.build_sheets.minimum(:id), "signposts" => workspace.signposts.minimum(:id)}
    ApiDocument.own.operations.select { |one| one.method == "get" }.map(&:template).filter_map do |path|
      next if !path.include?("{workspace}") || path.include?("recorders")

      asked = path.sub("{workspace}", workspace.name).sub("{id}", ids[path[%r{\{workspace\}/(\w+)}, 1]].to_s).gsub(/\{\w+\}/, "1")
      status, _, body = Api.call(Rack::MockRequest.env_for("http://127.0.0.1#{asked}", "HTTP_HOST" => "127.0.0.1"))
      body.each { |part| part }
      asked if status >= 500
    end
  end

  it "is a workspace that can be looked at, or refused in words: #{long ? 200 : 4} bundles" do
    BundleWriter.new(workspace).write(file = File.join(Dir.mktmpdir, "b.zip"))
    good = parts(file).except("digests.json").reject { |name, _| name.start_with?("pictures/") }
    before, began = state(workspace), memory
    faults = Array.new(long ? 200 : 4) { |number|
      Delayed::Job.delete_all
      sent = Settings.var("bundles", "sent.zip").tap { |path| File.binwrite(path, mutated(good, hostile)) }
      one = BundleImport.begin!(sent, person: nil, filename: "x.zip")
      BundleImportJob.new(one.id).perform
      one.reload
      if one.state == "done"
        ExplainJob.new(one.workspace_id).perform
        wrong = shown(one.workspace)
        Closing.new(one.workspace).delete
        [number, wrong] if wrong.any?
      elsif one.state != "failed" || !one.problem.to_s.match?(/\A\S.{10,}\.\z/m) || one.problem.match?(/undefined|SQL|Error\b|::/)
        [number, one.state, one.problem]
      end
    }.compact
    expect(faults).to eq([])
    expect([state(workspace) == before, Workspace.where.not(state: "open").count]).to eq([true, 0])
    expect(memory - began).to be < room
  end

  it "is Orvant's own database, or refused in words: #{long ? 100 : 6} backups" do
    next if ENV.key?("DATABASE_URL")

    Backup.write(file = File.join(Dir.mktmpdir, "all.zip"))
    good = parts(file)
    kept = Dir.mktmpdir
    FileUtils.cp(Settings.var("orvant.sqlite3"), kept)
    statements = ["DELETE FROM people", "UPDATE schema_migrations SET version = '9' || version", "ALTER TABLE links ADD COLUMN x", "DROP TABLE orders", "INSERT INTO delayed_jobs (handler, created_at, updated_at) VALUES ('--- !ruby/object:Object {}', 1, 1)", "CREATE TRIGGER x AFTER UPDATE ON links BEGIN DELETE FROM links; END", "UPDATE workspaces SET title = 'x'", "PRAGMA user_version = 7", "DROP INDEX index_people_on_mail"]
    faults = Array.new(long ? 100 : 6) { |number|
      changed = good.dup
      if chance.rand(2).zero?
        database = File.join(Dir.mktmpdir, "d").tap { |path| File.binwrite(path, good["orvant.sqlite3"]) }
        SQLite3::Database.new(database).then { |one| statements.sample(2, random: chance).each { |statement| one.execute(statement) } && one.close }
        changed["orvant.sqlite3"] = File.binread(database)
        changed.delete("digests.json")
      end
      bytes = zipped(changed)
      chance.rand(3).times { bytes.setbyte(chance.rand(bytes.bytesize), chance.rand(256)) }
      changed_file = File.join(Dir.mktmpdir, "c.zip").tap { |path| File.binwrite(path, bytes) }
      ActiveRecord::Base.connection_handler.clear_all_connections!
      begin
        Restore.call(changed_file)
        Database.connect
        here = RestoredDatabase.tables(SQLite3::Database.new(Settings.var("orvant.sqlite3")))
        [number, "another database"] unless here == RestoredDatabase.expected(Database.version) && Delayed::Job.none?
      rescue Orvant::Error => error
        [number, error.message] if error.message.match?(/undefined|::/)
      rescue => error
        [number, error.class, error.message[0, 200]]
      end
    }.compact
    expect(faults).to eq([])
  ensure
    ActiveRecord::Base.connection_handler.clear_all_connections!
    FileUtils.cp(File.join(kept, "orvant.sqlite3"), Settings.var("orvant.sqlite3")) if kept
    Database.connect
  end

  # kind of file => what it is at a size
  {
    "a sheet of one wide row" => ->(size) { Books.zip("xl/workbook.xml" => "<workbook #{Books::MAIN}><sheets><sheet name=\"S\" sheetId=\"1\" r:id=\"a\"/></sheets></workbook>", "xl/_rels/workbook.xml.rels" => Books.relations([["a", "worksheet", "worksheets/sheet1.xml"]]), "xl/worksheets/sheet1.xml" => "<worksheet #{Books::MAIN}><sheetData><row r=\"1\">#{"<c><v>1</v></c>" * size}</row></sheetData></worksheet>") },
    "a table of one quote" => ->(size) { "address,kind\n\"#{"http://a.test/,\n" * size}" },
    "a table of separators" => ->(size) { "address,kind\n#{"," * size}\n" },
    "brackets" => ->(size) { "[" * size },
    "an archive of nothing" => ->(size) { Books.zip((0...[size / 50, 20_000].min).to_h { |number| ["#{number}.eml", ""] }) }
  }.each do |name, made|
    it "is refused or read within bounds: #{name}" do
      sizes = long ? [1_000, 100_000, 1_000_000] : [1_000, 30_000]
      began = memory
      statuses = sizes.flat_map do |size|
        bytes = made.call(size)
        %w[/imports/preview /imports].map do |path|
          status, _, body = Api.call(Rack::MockRequest.env_for("http://127.0.0.1/api/workspaces/skerry-line#{path}?kind=#{name.include?("archive") ? "messages" : "links"}&filename=x", :method => "POST", :input => bytes, "HTTP_HOST" => "127.0.0.1", "CONTENT_TYPE" => "application/octet-stream"))
          body.each { |part| part }
          status
        end
      end
      expect(statuses).to all(be < 500)
      Delayed::Worker.new(quiet: true).work_off(20)
      expect(Import.where(state: "failed").where("problem LIKE '%inside Orvant%'").pluck(:problem)).to eq([])
      expect(memory - began).to be < room
    end
  end
end
