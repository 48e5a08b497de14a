# frozen_string_literal: true

RSpec.describe Orvant::Inventory::Spreadsheet do
  site = "http://www.skerryline.example"

  # a cell below “Address” => the address read, and words of the notes
  {
    "#{site}/a" => ["#{site}/a", []],
    {text: "Open", link: "#{site}/hidden?x=1&y=2"} => ["#{site}/hidden?x=1&y=2", []],
    {text: "#{site}/a", link: "#{site}/a"} => ["#{site}/a", []],
    {
      text: "#{site}/shown",
      link: "#{site}/other"
    } => ["#{site}/shown", [/In 1 row a cell shows another address than it links to \(row 2\)/]]
  }.each do |cell, (address, notes)|
    {
      "XLSX" => Books.xlsx("Codes" => [%w[Address Place], [cell, "Pier"]]),
      "ODS" => Books.ods([%w[Address Place], [cell, "Pier"]])
    }.each do |format, bytes|
      it "reads #{cell.inspect[0, 60]} from #{format}" do
        list = Orvant::Inventory::PrintList.read(bytes)
        expect([list.sightings.map { |one| [one.address.raw, one.place] }, list.rejected]).to eq(
          [[[address, "Pier"]], []]
        )
        expect(list.notes).to match(notes)
      end
    end
  end

  it "takes a cell for its address only where an address is asked for" do
    rows = [
      %w[Address Place Owner],
      [
        {text: "Open", link: "#{site}/a"},
        {text: "Pier", link: "http://map.example/pier"},
        {text: "crew@skerryline.example", link: "mailto:crew@skerryline.example"}
      ]
    ]
    [Books.xlsx("Codes" => rows), Books.ods(rows)].each do |bytes|
      expect(
        Orvant::Inventory::PrintList.read(bytes).sightings.map { |one| [one.address.raw, one.place, one.owner] }
      ).to eq([["#{site}/a", "Pier", "crew@skerryline.example"]])
    end
  end

  it "reads where a formula links to" do
    bytes =
      Books.xlsx("Codes" => [["Address"], [{text: "Pier", formula: "HYPERLINK(\"#{site}/f?x=1&y=2\",\"Pier\")"}]])
    expect(Orvant::Inventory::PrintList.read(bytes).sightings.map { |one| one.address.raw }).to eq(
      ["#{site}/f?x=1&y=2"]
    )
  end

  it "reads numbers as numbers, whatever their last digits look like as text" do
    rows = [%w[Ad Landing Cost Clicks], ["one", "#{site}/a", 1.234, 12], ["two", "#{site}/b", 1234.5, 1200.0]]
    [Books.xlsx("Ads" => rows), Books.ods(rows)].each do |bytes|
      expect(Orvant::Inventory::AdList.read(bytes).sightings.map { |one| [one.spend, one.clicks] }).to eq(
        [[123, 12], [123_450, 1_200]]
      )
    end
  end

  it "reads the first sheet that holds anything, and says that there are more" do
    list =
      Orvant::Inventory::LinkList.read(
        Books.xlsx("Cover" => [], "Links" => [["Address"], ["#{site}/a"]], "Old" => [["Address"], ["#{site}/old"]])
      )
    expect(list.sightings.map { |one| one.address.raw }).to eq(["#{site}/a"])
    expect(list.notes).to match([/3 sheets; “Links” is read/])
  end

  it "bears rows and columns that are repeated to the end of the sheet" do
    after =
      "<table:table-row table:number-rows-repeated=\"1048570\"><table:table-cell table:number-columns-repeated=\"16384\"/></table:table-row>"
    list = Orvant::Inventory::LinkList.read(Books.ods([["Address"], ["#{site}/a"]], after: after))
    expect(list.sightings.map { |one| one.address.raw }).to eq(["#{site}/a"])
  end

  # what stands in a sheet => what is said
  {
    "<row r=\"1\">#{"<c><v>1</v></c>" * 20_000}</row>" => /a row of more than 16384 cells/,
    "<row r=\"1\"><c r=\"ZZZZZZZ1\"><v>1</v></c></row>" => /a cell at “ZZZZZZZ1”/,
    "<row r=\"999999999\"><c r=\"A1\"><v>1</v></c></row>" => /a row 999999999/
  }.each do |rows, said|
    it "counts what a sheet unfolds to before it is made: #{rows[0, 40]}" do
      book = Zip::File.open_buffer(StringIO.new(Books.xlsx("Links" => [["Address"]])))
      parts = book.entries.to_h { |entry| [entry.name, entry.get_input_stream.read] }
      parts["xl/worksheets/sheet1.xml"] = "<worksheet #{Books::MAIN}><dimension ref=\"A1:XFD1048576\"/><sheetData>#{rows}</sheetData></worksheet>"
      expect { described_class.read(Books.zip(parts)) }.to raise_error(Orvant::Error::UnusableTable, said)
    end
  end

  it "reads sheets in the order of the workbook, whatever their files are called, and dates as dates" do
    parts = {
      "[Content_Types].xml" => Books::TYPES,
      "xl/styles.xml" => "<styleSheet #{Books::MAIN}><cellXfs><xf numFmtId=\"0\"/><xf numFmtId=\"14\"/><xf numFmtId=\"3\"/></cellXfs></styleSheet>",
      "xl/workbook.xml" => "<workbook #{Books::MAIN}><sheets><sheet name=\"Last made\" sheetId=\"7\" r:id=\"b\"/><sheet name=\"First made\" sheetId=\"1\" r:id=\"a\"/></sheets></workbook>",
      "xl/_rels/workbook.xml.rels" => Books.relations([["a", "worksheet", "worksheets/sheet1.xml"], ["b", "worksheet", "/xl/worksheets/odd name.xml"]]),
      "xl/worksheets/sheet1.xml" => "<worksheet #{Books::MAIN}><sheetData><row><c><v>1</v></c></row></sheetData></worksheet>",
      "xl/worksheets/odd name.xml" => "<worksheet #{Books::MAIN}><sheetData><row r=\"3\"><c r=\"B3\" s=\"1\"><v>45992</v></c><c r=\"C3\" s=\"2\"><v>1234.5</v></c></row></sheetData></worksheet>"
    }
    rows = []
    sheet = described_class.read(Books.zip(parts))
    sheet.each_row { |*row| rows << row }
    expect([rows.reject { |row| row[1].all?(&:empty?) }, sheet.notes]).to eq([[[3, ["", "2025-12-01", "1234.5"], {}]], ["The file has 2 sheets; “Last made” is read."]])
  end

  it "refuses a cell that stands for more than can be read" do
    bomb =
      "<table:table-row><table:table-cell office:value-type=\"string\" table:number-columns-repeated=\"999999999\"><text:p>x</text:p></table:table-cell></table:table-row>"
    expect { described_class.read(Books.ods([["Address"]], after: bomb)) }.to raise_error(
      Orvant::Error::UnusableTable,
      /unfolds to \d{9,} cells/
    )
  end

  {
    "nothing in it" => Books.xlsx("Empty" => []),
    "a damaged sheet" => Books.zip("xl/workbook.xml" => "<workbook", "[Content_Types].xml" => "x")
  }.each do |name, bytes|
    it("says so where there is #{name}") do
      expect { described_class.read(bytes) }.to raise_error(Orvant::Error::UnusableTable, /no rows|cannot be read/)
    end
  end
end
