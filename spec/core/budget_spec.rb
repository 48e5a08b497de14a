# frozen_string_literal: true

require "zip"
require "zlib"

# Small files that unfold to much, and slips that cost more than their own row.
RSpec.describe Orvant::Inventory::Budget do
  def table(text) = Orvant::Inventory::Table.read(text)

  def lines(table) = [table.rows.map(&:line), table.rejected.map(&:line)]

  # what the text holds, lines that are read, lines that are rejected
  [
    ["a cell over several lines", "a,b,c\n1,\"x\ny\nz\",3\n4,5,6\n", [1, 2, 5], []],
    ["one quote that does not close", "a,b,c\n1,2,3\n1,\"2,3\n4,5,6\n", [1, 2, 4], [3]],
    ["two, with rows between", "a,b,c\n1,2,3\n1,\"2,3\n4,5,6\n4,5,6\n7,\"8,9\n10,11,12\n", [1, 2, 4, 5, 7], [3, 6]],
    ["two, one after the other", "a,b,c\n1,\"2,3\n7,\"8,9\n10,11,12\n", [1, 4], [2, 3]],
    ["one in every row", "a,b,c\n#{"1,\"x y,3\n" * 5_000}", [1], (2..5_001).to_a],
    ["a sign for inches", "a,b\n5\" pipe,1\n6\" pipe,2\n", [1, 2, 3], []],
    ["quotes in pairs within cells", "a,b\n\"say \"\"yes\"\"\",1\n\"x\",\"y\"\n", [1, 2, 3], []],
    ["one column of addresses", "address\n\"http://a.test/1\nhttp://a.test/2\n\"http://a.test/3\nhttp://a.test/4\n", [1, 3, 5], [2, 4]],
    ["a quote at the very end", "a,b\n1,2\n3,\"4", [1, 2], [3]],
    ["empty lines among them", "a,b\n\n1,\"2\"\n\n", [1, 3], []]
  ].each do |what, text, read, rejected|
    it "reads every row but the broken one: #{what}" do
      expect(lines(table(text))).to eq([read, rejected])
    end
  end

  it "agrees with the standard library on seeded tables without slips" do
    random = Random.new(26)
    cells = ["", "a", "b c", "\"", "x,y", "line\nbreak", "ü", "  ", "'"]
    60.times do
      rows = Array.new(1 + random.rand(8)) { Array.new(3) { cells[random.rand(cells.size)] } }.unshift(%w[a b c])
      expected = rows.reject { |row| row.all? { |cell| cell.strip.empty? } }
      expect(table(CSV.generate { |csv| rows.each { |row| csv << row } }).rows.map(&:cells)).to eq(expected)
    end
  end

  it "counts cells and seconds" do
    expect { 3.times { described_class.new(cells: 5).then { |one| 2.times { one.row(3) } } } }.to raise_error(Orvant::Error::UnusableTable, /more than 5 cells/)
    expect { described_class.new(seconds: -1).then { |one| 1_000.times { one.row(1) } } }.to raise_error(Orvant::Error::UnusableTable, /takes longer/)
  end

  # A sheet of one cell with a link over all cells that a sheet can have.
  def spreadsheet(range)
    main = "http://schemas.openxmlformats.org/spreadsheetml/2006/main"
    related = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
    package = "http://schemas.openxmlformats.org/package/2006/relationships"
    parts = {
      "xl/workbook.xml" => "<workbook xmlns='#{main}' xmlns:r='#{related}'><sheets><sheet name='S' sheetId='1' r:id='r1'/></sheets></workbook>",
      "xl/_rels/workbook.xml.rels" => "<Relationships xmlns='#{package}'><Relationship Id='r1' Type='#{related}/worksheet' Target='worksheets/sheet1.xml'/></Relationships>",
      "xl/worksheets/sheet1.xml" => "<worksheet xmlns='#{main}' xmlns:r='#{related}'><sheetData><row r='1'><c r='A1' t='inlineStr'><is><t>address</t></is></c></row></sheetData>" \
        "<hyperlinks><hyperlink ref=\"#{range}\" r:id=\"h1\"/></hyperlinks></worksheet>",
      "xl/worksheets/_rels/sheet1.xml.rels" => "<Relationships xmlns='#{package}'><Relationship Id='h1' Type='#{related}/hyperlink' Target='http://a.test/' TargetMode='External'/></Relationships>"
    }
    Zip::OutputStream.write_buffer { |zip|
      parts.each { |name, text|
        zip.put_next_entry(name) &&
          zip.write(text)
      }
    }.string
  end

  it "reads a sheet with one link over all its cells, without the link" do
    read = table(spreadsheet("A1:XFD1048576"))
    expect([read.rows.map(&:cells), read.notes.join]).to match([[["address"]], include("17179869184 cells")])
    expect(table(spreadsheet("A1:B2")).rows.first.targets).to eq(0 => "http://a.test/")
  end

  {
    "objects that each have names of their own" => ["links", "[#{Array.new(600) { |number| "{\"k#{number}\":1}" }.join(",")}]", /more than 500 different names/],
    "three thousand nested parts" => ["messages",
      "Subject: x\r\nContent-Type: multipart/mixed; boundary=b0\r\n\r\n#{Array.new(3_000) { |n| "--b#{n}\r\nContent-Type: multipart/mixed; boundary=b#{n + 1}\r\n\r\n" }.join}", /more than 100 parts/]
  }.each do |what, (kind, bytes, reason)|
    it "refuses #{what} with a sentence" do
      expect { Orvant::Inventory::Source.read(kind, bytes) }.to raise_error(Orvant::Error::UnusableTable, reason)
    end
  end

  it "reads a packed sitemap element by element, up to what a sitemap may hold" do
    packed = Zlib.gzip("<urlset xmlns='u'>#{"<url><loc> http://a.test/#{"x" * 200} </loc><lastmod>2026-11-25</lastmod></url>" * 50_100}</urlset>")
    expect(Orvant::Inventory::Sitemap.new(packed).addresses.tally).to eq("http://a.test/#{"x" * 200}" => 50_000)
    index = Orvant::Inventory::Sitemap.new("<sitemapindex><sitemap><loc><![CDATA[http://a.test/1]]></loc></sitemap><sitemap><loc>http://a.test/2</loc></sitemap></sitemapindex>")
    expect([index.addresses, index.sitemaps]).to eq([[], ["http://a.test/1", "http://a.test/2"]])
  end

  it "makes a file of the beginning of one, and nothing of what is damaged or short" do
    rows = Array.new(30_000) { |number| ["http://a.example/#{number}", "Ad #{number}"] }
    beginning = Orvant::Inventory::Beginning
    file = Orvant::Export::Workbook.write("Ads", %w[landing ad], rows)
    read = Orvant::Inventory::Table.read(beginning.of(file, 1_048_576)).rows
    expect(read.map { |row| row.cells.first(2) }).to eq([%w[landing ad], *rows].first(read.size))
    expect(read.size).to be_between(500, 10_000)
    damaged = ["", "\x1F\x8B", "PK\x03\x04", "\x1F\x8B#{"x" * 2_000_000}", "PK\x03\x04#{"x" * 2_000_000}", "[{\"a\":\"#{"x" * 2_000_000}"]
    expect(damaged.map { |bytes| beginning.of(bytes, 1_048_576) }).to all(be_nil)
  end
end
