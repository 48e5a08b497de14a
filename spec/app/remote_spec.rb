# frozen_string_literal: true

require_relative "../app_helper"
require_relative "../../app/cli/command_line"
require "puma"
require "puma/server"

# The command line against an Orvant that runs: over HTTP, with a key, as a pipeline uses it.
RSpec.describe Remote, :demo do
  include_context "cheap passwords"

  before(:all) do
    @server = Puma::Server.new(Api, nil, min_threads: 1, max_threads: 4, log_writer: Puma::LogWriter.null)
    @port = @server.add_tcp_listener("127.0.0.1", 0).addr[1]
    @server.run
    @workspace = Workspace.find_by!(name: "skerry-line")
    Founder.make(name: "Ann", mail: "ann@example.test", password: "four walls of rain")
  end

  after(:all) do
    @server.stop(true)
    [Person, Membership, ApiKey].each(&:delete_all)
  end

  def key(role) = ApiKey.issue(@workspace, name: "pipeline", role: role).last

  # @return [Array(Integer, String, String)] exit status, output, remarks
  def run(*arguments, key: nil)
    usual = [$stdout, $stderr]
    out, err = StringIO.new, StringIO.new
    $stdout, $stderr = out, err
    status = begin
      CommandLine.start([*arguments, "--server", "http://127.0.0.1:#{@port}", *(["--key", key] if key)])
      0
    rescue SystemExit => error
      error.status
    end
    [status, out.string, err.string]
  ensure
    $stdout, $stderr = usual
  end

  def file(name, text) = File.join(Dir.mktmpdir, name).tap { |path| File.write(path, text) }

  it "imports a file, says what was added, and names rejected rows" do
    links = file("links.csv", "address,kind\nhttp://www.skerryline.example/remote?utm_source=a,ad\njavascript:1,ad\n")
    expect(run("import", links, key: key("editor"))).to match([0, /\A1 added, 0 already there, 1 rejected\./, /line 3/])
    expect(@workspace.imports.last.author).to eq("pipeline (key)")
  end

  it "asks which workspace is meant where there are several" do
    other = Founding.call(title: "Other", own_hosts: ["a.test"])
    expect(run("fixes", key: key("reader")).first).to eq(0)
    described_class.new("http://127.0.0.1:#{@port}", ApiKey.issue(other, name: "p", role: "reader").last).then { |one| expect(one.get("/fixes")["fixes"]).to eq([]) }
    server = RawServer.new { RawServer.page("<p>Hello") }
    expect { described_class.new("http://127.0.0.1:#{server.port}", nil).get("/fixes") }.to raise_error(Orvant::Error, /something else than an Orvant/)
    expect { described_class.one_of(%w[a b]) }.to raise_error(Orvant::Error, /--workspace NAME.*a, b/)
  ensure
    Closing.new(other).delete
  end

  it "prints fixes as CSV and JSON, and writes a whole workspace for an owner's key alone" do
    expect(run("fixes", key: key("reader"))[1].lines.first).to start_with("state,weight,action")
    expect(JSON.parse(run("fixes", "--format", "json", key: key("reader"))[1])).to have_key("fixes")
    zip = file("w.zip", "what was there")
    expect(run("export", zip, key: key("editor"))).to match([2, "", /that is for owners/])
    expect(File.read(zip)).to eq("what was there")
    stub_const("RemoteBundle::PATIENCE", 0)
    expect(run("export", zip, key: key("owner"))).to match([2, "", /not written within/])
    PreparedFile.last.write
    stub_const("RemoteBundle::PATIENCE", 60)
    allow(Queues).to receive(:put_once) { |job| job.perform }
    expect(run("export", zip, key: key("owner")).first).to eq(0)
    expect(Zip::File.open(zip) { |one| one.entries.map(&:name) }).to include("workspace.json", "links.csv")
  end

  # what is wrong => what is said
  {"no key" => [nil, nil, /Nobody has signed in/], "a wrong key" => ["orvant_x", nil, /key that has not been taken back/], "another workspace" => [:reader, "none", /no workspace “none”/]}.each do |name, (which, workspace, said)|
    it "says of #{name} what it lacks, with status 2" do
      expect(run("fixes", *(["--workspace", workspace] if workspace), key: which.is_a?(Symbol) ? key(which.to_s) : which)).to match([2, "", said])
    end
  end

  it "says where nobody answers, and what is no address" do
    expect { described_class.new("http://127.0.0.1:9", nil, "x").get("") }.to raise_error(Orvant::Error, /cannot be reached/)
    expect { described_class.new("ftp://a.test", nil, "x") }.to raise_error(Orvant::Error, /no address of an Orvant/)
  end

  it "waits for a sweep to its end and fails where something breaks" do
    stub_const("RemoteSweep::EVERY", 0)
    answers = [{"id" => 7, "state" => "waiting", "done" => 0, "total" => 2, "findings" => 0}, {"id" => 7, "state" => "running", "done" => 1, "total" => 2, "findings" => 1}, {"id" => 7, "state" => "done", "done" => 2, "total" => 2, "findings" => 1}]
    fix = {"weight" => "breaks", "state" => "open", "where" => "skl.example/w", "owner" => "Ann", "action" => "Bring the page back."}
    remote = instance_double(described_class, post: answers.shift)
    allow(remote).to receive(:get) { |path| {"/sweeps/7" => -> { answers.shift }, "" => -> { {"explained" => {"pending" => false}} }, "/fixes" => -> { {"fixes" => [fix, fix.merge("state" => "proven"), fix.merge("weight" => "skews")]} }}.fetch(path).call }
    told = []
    ended = RemoteSweep.new(remote).call { |line| told << line }
    expect([ended.sound?, told, ended.to_s]).to eq([false, ["1 of 2, 1 findings", "2 of 2, 1 findings"], "1 finding; 1 fix of what breaks to do.\nskl.example/w (Ann): Bring the page back."])
    expect(RemoteSweep::Ended.new(sweep: {"state" => "failed", "problem" => "gone"}, breaks: []).sound?).to be(false)
  end
end
