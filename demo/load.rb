# frozen_string_literal: true

# Loads the demo into the database: the workspace where it is missing, and the host map as it is now. A person's changes stay.
require_relative "../config/environment"
require_relative "traffic"

DATA = File.expand_path("data", __dir__)
HOST_MAP = ->(port) { {"*.example" => "127.0.0.1:#{port}", "old-tickets.skerryline.example" => nil} }

def read_all(folder) = Dir[File.join(DATA, folder, "*.json")].sort.map { |file| JSON.parse(File.read(file)) }

def create_workspace
  workspace = Workspace.create!(name: "skerry-line", title: "Skerry Line", host_map: {},
    signatures: read_all("signatures").each { |document| Orvant::Signal::Signature.read(document) },
    expected_tags: [{"tag" => "gullwatch", "account" => "SK-204"}])
  convention = JSON.parse(File.read(File.join(DATA, "convention.json")))
  Orvant::Convention.read(convention)
  workspace.convention_versions.create!(version: 1, document: convention, note: "As agreed in September")
  read_all("rehearsals").each { |document| workspace.rehearsal_scripts.create!(name: Orvant::Rehearsal.read(document).name, document: document) }
  LinkImporting.new(workspace, File.binread(File.join(DATA, "links.csv")), filename: "links.csv").call
  TrafficImporting.new(workspace, DemoTraffic.new(File.join(DATA, "traffic_plan.json")).to_csv,
    filename: "sessions-october-november.csv").call
  workspace
end

# @param port [Integer] of the stand-ins
# @return [Workspace]
def load_demo(port:)
  Database.migrate
  workspace = Workspace.find_by(name: "skerry-line") || create_workspace
  workspace.update!(host_map: HOST_MAP.call(port))
  workspace
end

load_demo(port: Integer(ARGV.fetch(0))) if $PROGRAM_NAME == __FILE__
