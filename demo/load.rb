# frozen_string_literal: true

# Loads the demo into the database: the workspace where it is missing, and the host map as it is now. A person's changes stay.
require_relative "../config/environment"
require_relative "sales"
require_relative "traffic"
require_relative "world"

DATA = File.expand_path("data", __dir__)
HOST_MAP = lambda do |port, tls|
  secure = World::Secure::HOSTS.to_h { |host| [host, "127.0.0.1:#{tls}"] }
  {"*.example" => "127.0.0.1:#{port}", "old-tickets.skerryline.example" => nil, **secure}
end
TIDEPOST = {"network" => "Tidepost", "address" => "http://api.tidepost.example/ads", "key" => "harbour-key", "owner" => "Social agency"}.freeze
# The display network's export names its columns in its own way.
BRIGHTBUOY = {"account" => "Advertiser", "campaign" => "Campaign", "group" => "Line", "ad" => "Banner", "id" => "Banner no", "status" => "State",
              "landing" => "Lands on", "pattern" => "Click pattern", "tail" => "Extra", "own" => "Own values", "spend" => "Cost", "clicks" => "Clicks", "conversions" => "Results"}.freeze

def read_all(folder) = Dir[File.join(DATA, folder, "*.json")].sort.map { |file| JSON.parse(File.read(file)) }

def file(name) = File.binread(File.join(DATA, name))

def import(workspace, name, kind, source: "", **options)
  LinkImporting.new(workspace, file(name), filename: File.basename(name), kind: kind, source: source, options: options).call
end

# Collects from every kind of source, as the teams of the ferry line would hand them over.
def collect(workspace)
  import(workspace, "links.csv", "links")
  import(workspace, "brightbuoy.csv", "ads", source: "Brightbuoy export", network: "Brightbuoy", owner: "Display agency", matching: BRIGHTBUOY)
  workspace.column_matchings.create!(kind: "ads", name: "Brightbuoy export", header: file("brightbuoy.csv").lines.first.strip.split(","), matching: BRIGHTBUOY)
  import(workspace, "messages/harbour-letter.eml", "messages", owner: "Newsletter desk")
  import(workspace, "register.csv", "register", source: "Short links", host: "skl.example")
  import(workspace, "print.csv", "print")
  tidepost_yesterday(workspace)
  fetch(workspace, "network", "Tidepost", {"network" => "Tidepost"})
  fetch(workspace, "site", "http://www.skerryline.example/", {"address" => "http://www.skerryline.example/", "owner" => "Web team"})
end

def tidepost_yesterday(workspace)
  read = Orvant::Inventory::Source.read("ads", file("tidepost_yesterday.json"), convention: workspace.convention, network: "Tidepost", owner: "Social agency")
  LinkImporting.new(workspace, read, filename: "Tidepost", kind: "network", source: "Tidepost").call.update!(created_at: 1.day.ago)
end

def fetch(workspace, kind, source, options)
  import = workspace.imports.create!(kind: kind, filename: source, source: source, options: options, state: "waiting", rejected: [], notes: [])
  Fetching.new(import).call
  abort "#{source} could not be collected: #{import.problem}" if import.state == "failed"
end

def create_workspace(host_map)
  convention = JSON.parse(File.read(File.join(DATA, "convention.json")))
  workspace = Founding.call(title: "Skerry Line", convention: convention, note: "As agreed in September", host_map: host_map)
  WorkspaceChange.new(workspace).call("networks" => [TIDEPOST], "signatures" => read_all("signatures"), "rehearsals" => read_all("rehearsals"),
    "expected_fields" => %w[offer quote plan].map { |page| {"page" => "www.skerryline.example/groups/#{page}", "field" => "lead_source", "role" => "source"} },
    "expected_tags" => [{"tag" => "gullwatch", "account" => "SK-204"}])
  collect(workspace)
  TrafficImporting.new(workspace, DemoTraffic.new(File.join(DATA, "traffic_plan.json")).to_csv,
    filename: "sessions-october-november.csv").call
  sales = DemoSales.new(File.join(DATA, "traffic_plan.json"))
  %w[claims orders touches].each { |kind| BesideImporting.new(workspace, sales.public_send(kind), filename: "#{kind}-october-november.csv", kind: kind).call }
  make_new_links(workspace)
  Explaining.new(workspace).call
  workspace
end

# A sheet that somebody is working at, templates, and two signposts.
def make_new_links(workspace)
  made = JSON.parse(file("new_links.json").force_encoding(Encoding::UTF_8))
  workspace.build_sheets.create!(made["sheet"])
  made["templates"].each { |template| workspace.row_templates.create!(template) }
  made["signposts"].each { |facts| workspace.signposts.create!(facts.merge("host" => "skl.example")).then { |post| post.targets.create!(target: post.target, author: "Print studio") } }
  SignpostInventory.new(workspace).refresh
end

# @param port [Integer] of the stand-ins
# @param tls [Integer] of those that answer over TLS
# @return [Workspace]
def load_demo(port:, tls:)
  Backup.before_migration
  Database.migrate
  map = HOST_MAP.call(port, tls)
  workspace = Workspace.find_by(name: "skerry-line") || create_workspace(map)
  workspace.update!(host_map: map)
  workspace
end

load_demo(port: Integer(ARGV.fetch(0)), tls: Integer(ARGV.fetch(1))) if $PROGRAM_NAME == __FILE__
