# frozen_string_literal: true

require_relative "../app_helper"

# Over a hundred thousand links no request keeps a thread for longer than two seconds of a processor: what takes
# longer is made by the worker, or sent as it comes. In `bin/test long`.
RSpec.describe "A large workspace", :api, :swept do
  next unless ENV.key?("ORVANT_LONG")

  links = 100_000
  # In seconds of a processor, of which a machine that is at other things takes more.
  most = 2.0

  before(:context) do
    @workspace = Workspace.find_by!(name: "skerry-line")
    now = Time.now.utc
    (0...links).each_slice(2_000) do |some|
      Link.insert_all(some.map { |number|
        address = Orvant::Address.parse("http://www.skerryline.example/passes?utm_source=tidepost&utm_medium=social&utm_campaign=bench-#{number % 5_000}&utm_content=c#{number}")
        {workspace_id: @workspace.id, address: address.raw, normal_form: address.normal_form, host: address.host, kind: %w[post ad message page][number % 4], place: "Place #{number % 977}", owner: "Team #{number % 7}", spend: number % 4_000, created_at: now, updated_at: now}
      })
    end
    beyond = Link.maximum(:id) - links
    {Sighting => "link_id", LinkTrail => "link_id"}.each do |model, column|
      columns = model.column_names - ["id", column, "identity"]
      identity = (model == Sighting) ? ", identity" : ""
      model.connection.execute("INSERT INTO #{model.table_name} (#{column}#{identity}, #{columns.map { |one| "\"#{one}\"" }.join(", ")}) SELECT links.id#{", 'x' || links.id" if model == Sighting}, #{columns.map { |one| "one.\"#{one}\"" }.join(", ")} FROM links JOIN (SELECT * FROM #{model.table_name} ORDER BY id LIMIT 1) AS one ON 1 = 1 WHERE links.id > #{beyond}")
    end
    finding = Finding.current.where.not(link_id: nil).last
    columns = Finding.column_names - %w[id link_id]
    Finding.connection.execute("INSERT INTO findings (link_id, #{columns.map { |one| "\"#{one}\"" }.join(", ")}) SELECT links.id, #{columns.map { |one| "one.\"#{one}\"" }.join(", ")} FROM links JOIN (SELECT * FROM findings WHERE id = #{finding.id}) AS one ON 1 = 1 WHERE links.id > #{Link.maximum(:id) - links / 2}")
  end

  def processor = Process.clock_gettime(Process::CLOCK_PROCESS_CPUTIME_ID)

  # Until the first of an answer: what is sent as it comes keeps nobody waiting.
  def seconds(method, path, body = nil)
    began = processor
    status, _, parts = Api.call(Rack::MockRequest.env_for("http://127.0.0.1#{path}", :method => method, :input => body ? JSON.generate(body) : "", "HTTP_HOST" => "127.0.0.1", "CONTENT_TYPE" => "application/json"))
    parts.each { break }
    [(processor - began).round(2), status]
  end

  def filled(path)
    ids = {"links" => Link, "imports" => Import, "sweeps" => Sweep, "fixes" => Fix, "sheets" => BuildSheet, "signposts" => Signpost}
    model = ids[path[%r{\{workspace\}/(\w+)}, 1]]
    path.sub("{workspace}", "skerry-line").sub("{name}", "book-a-day-pass").sub("{version}", "1").gsub("{id}", (model&.maximum(:id) || 1).to_s).gsub(/\{\w+\}/, "1")
  end

  it "is answered within #{most} s of a processor, whatever is asked" do
    rules = @workspace.convention_version.document
    reads = ApiDocument.own.operations.select { |one| one.method == "get" && !one.template.include?("recorders") }
    asked = reads.map do |one|
      needed = one.parameters_in("query").select { |_, given| given["required"] }.keys
      ["GET", "#{filled(one.template)}?#{needed.map { |name| "#{name}=1" }.join("&")}"]
    end
    within = "/api/workspaces/skerry-line"
    asked += [["POST", "#{within}/convention/learn", {}], ["POST", "#{within}/convention/preview", {document: rules}], ["POST", "#{within}/convention/try", {document: rules}],
      ["POST", "#{within}/sweeps", {}], ["POST", "#{within}/bundle", {}], ["POST", "#{within}/convention", {document: rules.merge("note" => "x"), base: @workspace.convention_version.version}]]
    Sweep.where(state: Sweep::ACTIVE).update_all(state: "stopped")
    took = asked.to_h { |one| [one.first(2).join(" "), seconds(*one)] }
    expect(took.count { |_, (_, status)| status < 300 }).to be > 40
    expect(took.select { |_, (time, status)| time > most || status >= 500 }).to eq({})
  end
end
