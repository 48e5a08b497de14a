# frozen_string_literal: true

# Loads the demo over Orvant's own API: the workspace where it is missing, and the host map as it is now. A
# person's changes stay.
require_relative "../config/environment"
require "net/http"
require_relative "door"
require_relative "log"
require_relative "sales"
require_relative "traffic"
require_relative "world"

DATA = File.expand_path("data", __dir__)
HOST_MAP = lambda do |port, tls|
  secure = World::Secure::HOSTS.to_h { |host| [host, "127.0.0.1:#{tls}"] }
  {"*.example" => "127.0.0.1:#{port}", "old-tickets.skerryline.example" => nil, **secure}
end
TIDEPOST = {
  "network" => "Tidepost",
  "address" => "http://api.tidepost.example/ads",
  "key" => "harbour-key",
  "owner" => "Social agency"
}.freeze
# The display network's export names its columns in its own way.
BRIGHTBUOY = {"account" => "Advertiser",
              "campaign" => "Campaign",
              "group" => "Line",
              "ad" => "Banner",
              "id" => "Banner no",
              "status" => "State",
              "landing" => "Lands on",
              "pattern" => "Click pattern",
              "tail" => "Extra",
              "own" => "Own values",
              "spend" => "Cost",
              "clicks" => "Clicks",
              "conversions" => "Results"}.freeze

# The demo's workspace, filled as the teams of the ferry line would fill it.
class DemoLoad
  # The week in which the quay's short link was mended, the ninth of thirteen.
  SEEN = Time.utc(2026, 10, 20, 9)
  PROVEN = Time.utc(2026, 10, 21, 16)
  QUAY = "skl.example/quay"

  # @param host_map [Hash]
  # @param world [Integer] the port where faults are planted and repaired
  def initialize(host_map, world:)
    @host_map = host_map
    @world = URI("http://127.0.0.1:#{world}/")
    @door = DemoDoor.new
  end

  # @return [Workspace]
  def call
    found
    set_up
    collect
    prove_one
    weigh
    make_new_links
    @door.work
    Workspace.find_by!(name: @name)
  end

  private

  def found
    @name = @door.post(
      "/api/workspaces",
      {title: "Skerry Line", convention: JSON.parse(file("convention.json")), host_map: @host_map}
    )["name"]
    @door.enter(@name)
  end

  def set_up
    @door.patch("networks" => [TIDEPOST],
      "signatures" => read_all("signatures"),
      "rehearsals" => read_all("rehearsals"),
      "expected_fields" => %w[offer quote plan].map { |page|
        {
          "page" => "www.skerryline.example/groups/#{page}",
          "field" => "lead_source",
          "role" => "source"
        }
      },
      "expected_tags" => [{"tag" => "gullwatch", "account" => "SK-204"}],
      "watching" => JSON.parse(file("watching.json")))
  end

  # From every kind of source.
  def collect
    read("links.csv", "links")
    read(
      "brightbuoy.csv",
      "ads",
      source: "Brightbuoy export",
      network: "Brightbuoy",
      owner: "Display agency",
      matching: BRIGHTBUOY
    )
    read("messages/harbour-letter.eml", "messages", owner: "Newsletter desk")
    read("register.csv", "register", source: "Short links", host: "skl.example")
    read("print.csv", "print")
    yesterday = @door.fetch(kind: "network", network: "Tidepost", address: "#{TIDEPOST["address"]}/yesterday")
    # What no door takes, here and where a fix was proven: when something was.
    Import.find(yesterday).update!(created_at: 1.day.ago)
    @door.fetch(kind: "network", network: "Tidepost")
    @door.fetch(kind: "site", address: "http://www.skerryline.example/", owner: "Web team")
    @door.fetch(kind: "site", address: "http://shop.skerryline.example/", owner: "Ticket shop")
  end

  # One fix was made before: what the quay's screens lost until then is seen, mended, and proven.
  def prove_one
    Net::HTTP.post_form(@world, "fault" => "quay-drops")
    link = Link.find_by!("address LIKE ?", "%#{QUAY}?%")
    seen = @door.post("/sweeps", {links: [link.id]})["id"]
    @door.work
    Net::HTTP.post_form(@world, "fault" => "quay-drops")
    fix = Workspace.find_by!(name: @name).fixes.sole
    proof = @door.post("/fixes/#{fix.id}/check", {})["id"]
    @door.work
    {seen => SEEN, proof => PROVEN}.each do |id, at|
      Sweep.find(id).update!(created_at: at, started_at: at, finished_at: at + 60)
      LinkTrail.where(sweep_id: id).update_all(created_at: at)
    end
    fix.reload.update!(proof: fix.proof.merge("at" => PROVEN.iso8601))
  end

  # What analytics counted, what the networks claim, and what was sold.
  def weigh
    plan = File.join(DATA, "traffic_plan.json")
    @door.import(DemoTraffic.new(plan).to_csv, "traffic", filename: "sessions-august-november.csv")
    @door.import(
      DemoLog.new(plan).text,
      "logs",
      filename: "shop-access.log",
      source: "Ticket shop's server",
      host: "shop.skerryline.example"
    )
    sales = DemoSales.new(plan)
    %w[claims orders touches].each do |kind|
      @door.import(sales.public_send(kind), kind, filename: "#{kind}-august-november.csv")
    end
  end

  # A sheet that somebody is working at, templates, and two signposts.
  def make_new_links
    made = JSON.parse(file("new_links.json"))
    @door.post("/sheets", made["sheet"])
    made["templates"].each { |template| @door.post("/templates", template) }
    made["signposts"].each { |post| @door.post("/signposts", post.merge("host" => "skl.example")) }
  end

  def read(name, kind, **said) = @door.import(file(name), kind, filename: File.basename(name), **said)

  def read_all(folder)
    Dir[File.join(DATA, folder, "*.json")].sort.map { |path| JSON.parse(File.read(path)) }
  end

  def file(name) = File.binread(File.join(DATA, name)).force_encoding(Encoding::UTF_8)
end

# @param port [Integer] of the stand-ins
# @param tls [Integer] of those that answer over TLS
# @return [Workspace]
def load_demo(port:, tls:)
  Backup.before_migration
  Database.migrate
  map = HOST_MAP.call(port, tls)
  workspace = Workspace.find_by(name: "skerry-line") || DemoLoad.new(map, world: port).call
  workspace.update!(host_map: map)
  workspace
end

load_demo(port: Integer(ARGV.fetch(0)), tls: Integer(ARGV.fetch(1))) if $PROGRAM_NAME == __FILE__
