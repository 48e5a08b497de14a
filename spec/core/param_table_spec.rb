# frozen_string_literal: true

# Some three hundred addresses, with and without faults. Each must get the codes that stand beside it, and no others.
RSpec.describe Orvant::Checks::Param do
  expand = lambda do |text|
    text = "http://www.skerryline.example/day-pass?#{text}" unless text.start_with?("http")
    text.gsub(/(?<=[&?])S(?=[&#;]|\z)/, "utm_source=island-letter&utm_medium=email&utm_campaign=june")
      .gsub(/(?<=\?)L(?=&|\z)/, "utm_source=lanternfind&utm_medium=paid-search&utm_campaign=walks")
  end

  File.readlines(File.join(__dir__, "param_table.txt"), chomp: true).grep(/\A[a-z-]+ \|/).each do |line|
    kind, text, codes = line.split("|").map(&:strip)
    address = expand.call(text)

    it "finds #{codes.to_s.empty? ? "nothing" : codes} in #{kind} #{text[0, 120]}" do
      found = described_class.judge(Orvant::Address.parse(address), demo_convention, kind: kind)
      expect(found.map { |finding| finding.code.delete_prefix("param/") }).to match_array(codes.to_s.split)
    end

    it "offers only a corrected address that passes for #{kind} #{text[0, 120]}" do
      offered = described_class.judge(Orvant::Address.parse(address), demo_convention, kind: kind).filter_map(&:corrected_address).uniq
      expect(offered.flat_map { |one| described_class.judge(Orvant::Address.parse(one), demo_convention, kind: kind) }).to eq([])
    end
  end
end
