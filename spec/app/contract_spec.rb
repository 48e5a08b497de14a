# frozen_string_literal: true

require_relative "../app_helper"

# Requests against what the OpenAPI document says of them, before a handler sees them.
RSpec.describe RequestContract, :api, :demo do
  def ask(method, path, body = "", type: "application/json", workspace: "skerry-line", **env)
    uri, query = "/api/workspaces/#{workspace}/#{path}".chomp("/").split("?", 2)
    request = Rack::MockRequest.env_for("/", :method => method, :input => body, "HTTP_HOST" => "127.0.0.1", "CONTENT_TYPE" => type, **env)
    status, headers, parts = Api.call(request.merge("PATH_INFO" => uri, "QUERY_STRING" => query.to_s))
    said = +""
    parts.each { |part| said << part.b }
    [status, headers, said.force_encoding(Encoding::UTF_8)]
  end

  # request => the reason
  {
    "links?limit=many" => "“limit” is a whole number",
    "links?limit=0" => "limit cannot be “0”",
    "links?limit=501" => "limit cannot be “501”",
    "links?limit=99999999999999999999" => "“limit” is a whole number",
    "links?direction=sideways" => "it is one of up, down",
    "links?q[]=1" => "no parameter “q[]”",
    "links?q[a]=1" => "no parameter “q[a]”",
    "links?colour=red" => "no parameter “colour” here; there are: q, kind",
    "links?q=a&q=b" => "given 2 times",
    "links?q=%FF" => "no text in UTF-8",
    "links?q=%00" => "no text in UTF-8",
    "links?q=%zz" => "begins no escape",
    "links?q=#{"a" * 32_769}" => "longer than 32768 characters",
    "page" => "“page” is missing",
    "sweeps?x=1" => "there are: none"
  }.each do |path, reason|
    it "answers GET #{path[0, 60]} with its reason" do
      status, headers, said = ask("GET", path)
      expect([status, headers["content-type"], JSON.parse(said)["detail"]]).to match([422, "application/problem+json", including_text(reason)])
    end
  end

  # request, body => the reason
  {
    ["POST", "sweeps", "{"] => "no JSON object",
    ["POST", "sweeps", "[]"] => "no JSON object",
    ["POST", "sweeps", "\xFF".b] => "no text in UTF-8",
    ["POST", "sweeps", "[" * 200] => "no JSON object",
    ["POST", "sweeps", '{"visitors":"phone"}'] => "at /visitors",
    ["POST", "senders/1", "{}"] => "missing required properties: decision",
    ["POST", "links/acts", '{"act":"burn"}'] => "at /act: it is one of exclude",
    ["PUT", "sheets/1", '{"rows":[{"landing":"","kind":7,"values":{}}],"lock":1}'] => "at /rows/0/kind"
  }.each do |(method, path, body), reason|
    it "answers #{method} #{path} #{body.inspect[0, 40]} with its reason" do
      status, _, said = ask(method, path, body)
      expect([status, JSON.parse(said)["detail"]]).to match([422, including_text(reason)])
    end
  end

  def including_text(text) = a_string_including(text)

  it "bounds a body by what the document says of it" do
    expect(ask("POST", "sweeps", "{\"a\":\"#{"x" * 1_048_576}\"}").first).to eq(413)
    expect(ask("POST", "sheets", "{\"name\":\"\",\"rows\":[],\"x\":\"#{"x" * 2_000_000}\"}").first).to eq(201)
  end

  it "finds nothing where no path leads, whatever stands there" do
    expect(%w[links/abc links/99999999999999999999 links/1/2 nothing fixes/%2e%2e sheets/1.5].map { |path| ask("GET", path).first }).to eq([404] * 6)
  end

  it "is put together of parts that never say the same thing twice, neither in two nor in one" do
    twice = ->(node) do
      keys = node.is_a?(Psych::Nodes::Mapping) ? node.children.each_slice(2).map { |key, _| key.value } : []
      keys.tally.select { |_, times| times > 1 }.keys + node.children.to_a.flat_map(&twice)
    end
    expect(ApiParts::FILES.to_h { |file| [file, twice.call(YAML.parse_file(file))] }.reject { |_, keys| keys.empty? }).to eq({})
    expect(twice.call(YAML.parse("a: 1\nb: {c: 2, c: 3}"))).to eq(["c"])
    expect { ApiParts.add({"paths" => {"/a" => 1}}, {"paths" => {"/a" => 2}}) }.to raise_error(ArgumentError, /“\/a” stands in two parts/)
  end

  it "tells literal paths from those with a parameter" do
    found = ->(path) { ApiDocument.own.find("GET", "/api/workspaces/w/#{path}")&.first&.template }
    expect(found.call("sweeps/reach")).to end_with("/sweeps/reach")
    expect(found.call("sweeps/7")).to end_with("/sweeps/{id}")
    expect([found.call("sweeps/7/x"), found.call("links.csv")]).to match([nil, a_string_ending_with("links.csv")])
  end

  it "names kinds of link and weights as the core does, in their order" do
    lists = ->(value, found = []) do
      case value
      when Hash then value.each { |key, one| (key == "enum") ? found << one : lists.call(one, found) }
      when Array then value.each { |one| lists.call(one, found) }
      end
      found
    end
    named = lists.call(ApiDocument.own.document)
    expect(named.select { |one| one.include?("short-link") && one.include?("ad") }.uniq).to eq([Orvant::Inventory::Sighting::KINDS])
    expect(named.select { |one| one.include?("untidy") }.uniq).to eq([["", *Orvant::Finding::WEIGHTS.reverse]])
  end

  it "says of a workspace without rules what it lacks, wherever rules are needed, and opens the rest" do
    Workspace.create!(name: "bare", title: "Bare", host_map: {}, signatures: [], expected_tags: [])
    reads = ApiDocument.own.operations.select { |one| one.method == "get" }.map(&:template).select { |path| path.scan("{") == ["{"] && path.include?("{workspace}") }
    answers = reads.to_h do |path|
      status, _, said = ask("GET", path.delete_prefix("/api/workspaces/{workspace}").delete_prefix("/"), workspace: "bare")
      [path, [status, said]]
    end
    expect(answers.reject { |_, (status, _)| [200, 404, 409, 422].include?(status) }.keys).to eq([])
    expect(answers.values.select { |status, _| status == 409 }.map { |_, said| JSON.parse(said)["kind"] }.uniq).to eq(["no_convention"])
  end

  it "takes a file as curl sends it, and never reads one as a form" do
    file = "address,kind,found\nhttp://www.skerryline.example/by-curl?utm_source=a%zz&b[]=1,ad,x\n"
    ["application/x-www-form-urlencoded", "multipart/form-data; boundary=x", "multipart/form-data"].each do |type|
      status, _, said = ask("POST", "imports/preview?kind=links", file, type: type)
      expect([status, JSON.parse(said)["new"]]).to eq([200, 1])
    end
  end

  it "takes a place for printed codes whose rows name none" do
    status, _, said = ask("POST", "imports/preview?kind=print&place=Ferry+terminal", "address,run\nhttp://skl.example/quay,1\n", type: "text/csv")
    expect([status, JSON.parse(said).dig("sample", 0, "place")]).to eq([200, "Ferry terminal · 1"])
  end

  it "answers overlong and impossible dates in words" do
    ["2026-02-30", "9" * 5_000, "tomorrow"].each do |ends|
      status, _, said = ask("POST", "signposts", JSON.generate("host" => "skl.example", "path" => "/x", "target" => "http://www.skerryline.example/", "ends" => ends))
      expect([status, JSON.parse(said)["detail"]]).to match([422, a_string_matching(/is no date|longer than/)])
    end
  end

  it "compresses what is long, and sends short answers as they are" do
    encodings = %w[links?limit=50 sweeps].map { |path| ask("GET", path, "HTTP_ACCEPT_ENCODING" => "gzip")[1]["content-encoding"] }
    expect(encodings).to eq(["gzip", nil])
  end

  it "reads the links for an outlook once, however many ask" do
    allow(PreviewDesk).to receive(:for) { sleep 0.01 until Thread.current[:never] }
    before = Thread.list.size
    8.times { ask("GET", "convention?warm=1") }
    expect(Thread.list.size - before).to be <= 1
  ensure
    Thread.list.each { |thread| thread[:never] = true }
  end
end
