# frozen_string_literal: true

require_relative "../app_helper"

# The page on security says of each requirement which spec holds it: they are there.
RSpec.describe "docs/security.md" do
  specs = Dir[File.join(ROOT, "spec/**/*_spec.rb")].group_by { |path| File.basename(path, ".rb") }
    .transform_values { |same| same.map { |path| File.read(path) }.join }
  rows = File.readlines(File.join(ROOT, "docs/security.md")).grep(/\A\| \d|\A\| what|\A\| 4\.x/)

  it "names for each requirement a spec, or says that it is not met" do
    expect(rows.size).to be > 40
    without = rows.reject { |row| row.split("|")[3].match?(/\w+_spec "|`\.ci|–/) }
    expect(without).to eq([])
  end

  rows.flat_map { |row| row.split("|")[3].split(";") }.each do |held|
    name = held[/\w+_spec/] or next
    held.scan(/"([^"]+)"/).flatten.each do |example|
      it "finds “#{example}” in #{name}" do
        expect(specs.fetch(name)).to include(example)
      end
    end
  end
end
