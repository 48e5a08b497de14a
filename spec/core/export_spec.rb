# frozen_string_literal: true

RSpec.describe Orvant::Export do
  describe Orvant::Export::CSVTable do
    # a cell => what no spreadsheet computes
    {
      "plain" => "plain",
      "=1+1" => "'=1+1",
      "+cmd|' /C calc'!A0" => "'+cmd|' /C calc'!A0",
      "-2" => "-2",
      "-2.50" => "-2.50",
      "-2+3" => "'-2+3",
      "@SUM(A1)" => "'@SUM(A1)",
      "\tx" => "'\tx",
      "\rx" => "'\rx",
      nil => "",
      12 => "12",
      -3 => "-3",
      "ü 日本" => "ü 日本",
      "http://a.example/?x==1" => "http://a.example/?x==1"
    }.each do |cell, written|
      it "writes #{cell.inspect} as #{written.inspect}" do
        expect(described_class.neutral(cell)).to eq(written)
        expect(CSV.parse(described_class.write(%w[a b], [[cell, "x"]]))).to eq([%w[a b], [written, "x"]])
      end
    end

    it "is read again as it was, but for the apostrophes" do
      rows = [["http://www.skerryline.example/a?x=1,2", "He said \"no\""], ["=1", "\n"]]
      read = CSV.parse(described_class.write(%w[one two], rows), headers: true)
      expect(read.map(&:fields)).to eq([rows.first, ["'=1", "\n"]])
    end
  end

  describe Orvant::Export::Workbook do
    it "writes text that is text when it is read again, whatever it looks like" do
      rows = [%w[=1+1 2026-11-25 007], %w[@x 1.50 <b>&amp;</b>], ["http://www.skerryline.example/?a=1&b=2", "ü 日本", ""]]
      bytes = described_class.write("Links: [all] / of *them*", %w[a b c], rows)
      expect(Orvant::Inventory::Spreadsheet.read(bytes).each_row.map { |_, cells| cells.map(&:to_s) }).to eq(
        [%w[a b c], *rows]
      )
    end
  end

  describe Orvant::Export::Masking do
    # a document => as it is shown
    {
      {
        "address" => "http://a.example/?m=kari@post.example"
      } => {
        "address" => "http://a.example/?m=•••"
      },
      {
        "owner" => "kari@skerryline.example",
        "note" => "ask kari@skerryline.example"
      } => {
        "owner" => "kari@skerryline.example",
        "note" => "ask •••"
      },
      {
        "name" => "first_name",
        "before" => "Kari",
        "after" => nil,
        "fate" => "dropped"
      } => {
        "name" => "first_name",
        "before" => "•••",
        "after" => nil,
        "fate" => "dropped"
      },
      {
        "name" => "utm_source",
        "before" => "letter",
        "after" => "Letter"
      } => {
        "name" => "utm_source",
        "before" => "letter",
        "after" => "Letter"
      },
      {
        "name" => "phone",
        "value" => "900 11 223"
      } => {
        "name" => "phone",
        "value" => "•••"
      },
      {
        "list" => [["kari@post.example", 1, nil, true]]
      } => {
        "list" => [["•••", 1, nil, true]]
      },
      "kari@post.example" => "•••",
      nil => nil,
      12.5 => 12.5
    }.each do |document, shown|
      it "shows #{document.inspect} as #{shown.inspect}" do
        expect(described_class.masked(document)).to eq(shown)
      end
    end

    it "changes nothing of the document it was given" do
      document = {"a" => ["kari@post.example"]}.freeze
      described_class.masked(document)
      expect(document).to eq("a" => ["kari@post.example"])
    end
  end
end
