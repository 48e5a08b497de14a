# frozen_string_literal: true

require "prism"
require_relative "../../config/rooms"

# The application's rooms, by the constants that their files name.
RSpec.describe "The rooms of the application" do
  files = Dir[File.join(ROOT, "app/{#{ROOMS.join(",")}}/**/*.rb")]
  camel = ->(name) { name.split("_").map(&:capitalize).join }
  home = files.to_h { |file| [camel[File.basename(file, ".rb")], file] }
  room = ->(file) { file.delete_prefix("#{ROOT}/app/")[%r{\A[^/]+}] }
  # What puts the others together knows all of them.
  roof = File.join(ROOT, "app/api/api.rb")

  constants = Class.new(Prism::Visitor) do
    attr_reader :found

    def initialize = (@found = Set.new) && super

    def visit_constant_read_node(node) = @found << node.name.to_s

    # Of a path only its beginning is looked for here.
    def visit_constant_path_node(node) = node.parent&.accept(self)
  end

  named = lambda do |file|
    visitor = constants.new
    Prism.parse_file(file).value.accept(visitor)
    visitor.found.filter_map { |name| home[name] } - [file]
  end

  it "are all that there are, beside the command line" do
    expect(Dir[File.join(ROOT, "app/*/")].map { |folder| File.basename(folder) }).to match_array(ROOMS + ["cli"])
  end

  it "use those before them, and never one behind: where an earlier one must tell later ones, they subscribe" do
    edges = (files - [roof]).flat_map { |file| named[file].map { |other| [file, other] } }
    against = edges.select { |file, other| ROOMS.index(room[other]) > ROOMS.index(room[file]) }
    expect(edges.size).to be > 300
    expect(against.map { |pair| pair.map { |file| file.delete_prefix("#{ROOT}/app/") }.join(" names ") }).to eq([])
  end
end
