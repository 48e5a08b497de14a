# frozen_string_literal: true

RSpec.describe Orvant::Inventory::LinkList do
  def read(text) = described_class.read(text)

  def utf16(text) = "\uFEFF#{text}".encode(Encoding::UTF_16LE).b

  good = "http://www.skerryline.example/"

  # the file => how many sightings, reasons of the rejected rows, words of the notes
  {
    "plain" => ["address,kind,found\n#{good},ad,x\n", 1, [], []],
    "semicolons" => ["address;found\n#{good};x\n", 1, [], []],
    "tabs" => ["address\tfound\n#{good}\tx\n", 1, [], []],
    "old Mac line ends" => ["address,found\r#{good},x\r", 1, [], []],
    "byte order mark" => ["\xEF\xBB\xBFaddress\n#{good}\n", 1, [], []],
    "other names" => ["Landing page;Where it was found;Who;Cost\n#{good};x;y;1,50\n", 1, [], []],
    "no header" => ["#{good},x\n#{good}b,y\n", 2, [], [/no header row/]],
    "header twice" => ["address,found\n#{good},x\naddress,found\n#{good}b,y\n", 2, [/repeats the header/], []],
    "column twice" => ["address,address\n#{good},http://b.example/\n", 1, [], [/“address” stands 2 times/]],
    "fifty columns" => [
      "address,#{(1..49).map { |n| "c#{n}" }.join(",")}\n#{good}#{",1" * 49}\n",
      1,
      [],
      [/49 columns are not used/]
    ],
    "blank lines" => ["address\n\n#{good}\n ,\n\n", 1, [], []],
    "short and long rows" => ["address,kind,found\n#{good}\n#{good}b,ad,x,y,z\n", 2, [], []],
    "no address" => ["address,kind\n,ad\nfoo,ad\n#{good},ad\n", 1, [/address is empty/, /does not begin/], []],
    "unknown kind" => ["address,kind\n#{good},banner\n", 0, [/“banner” is none of: ad, message/], []],
    "spend in words" => [
      "address,spend\n#{good},much\n#{good}b,1.5\n",
      2,
      [],
      [/1 figure could not be read.*Line 2: The spend “much” is no amount/]
    ],
    "date upside down" => ["address,since\n#{good},25.11.2026\n", 1, [], [/Line 2: .*year-month-day/]],
    "dashes where there is nothing" => ["address,spend,since\n#{good},--,–\n", 1, [], []],
    "titles above its header" => [
      "Report of links\n\"1 Nov, 2026 - 7 Nov, 2026\"\n\naddress;found;spend\n#{good};x;3\n#{good}b;y;4\n",
      2,
      [],
      [/2 rows above the header in line 4 are not read/]
    ],
    "a title in an address column's place" => ["Report\n#{good}\n", 1, [], []],
    "address of 100 kB" => ["address\n#{good}#{"x" * 100_000}\n#{good}\n", 1, [/column 1 holds \d+ characters/], []],
    "address with a line break" => ["address\n\"#{good}\nx\"\n#{good}\n", 1, [/line break/], []],
    "cell of 20 MB" => [
      "address,found\n#{good},#{"x" * 20_000_000}\n#{good}b,y\n",
      1,
      [/column 2 holds 20000000 characters/],
      []
    ],
    "unclosed quote" => [
      "address,found\n\"#{good},x\n#{good}b,y\n#{good}c,z\n",
      2,
      [/quotes of this row do not close/],
      []
    ],
    "markup everywhere" => [
      "address,kind,found,owner\n#{good}?x=<script>alert(1)</script>,ad,<img src=x onerror=alert(1)>,<b>\n",
      1,
      [],
      []
    ]
  }.each do |name, (text, sightings, reasons, notes)|
    it "reads a file with #{name}" do
      list = read(text)
      expect(list.sightings.size).to eq(sightings)
      expect(list.rejected.map(&:reason)).to match(reasons)
      expect(list.notes).to match(notes)
    end
  end

  it "reads UTF-16 and Windows-1252, and says which it was" do
    expect(
      [
        read(utf16("address,found\n#{good},Gr\u00FC\u00DFe\n")),
        read("address,found\n#{good},Gr\xFC\xDFe\n".b)
      ].map { |list| [list.encoding, list.sightings.first.place] }
    ).to eq([%w[UTF-16LE Grüße], %w[Windows-1252 Grüße]])
  end

  {
    "" => /is empty/,
    " \n" => /is empty/,
    "\x89PNG\r\n\x1A\n\x00\x00\x00\rIHDR" => /binary file/,
    "PK\x03\x04\x14\x00" => /ZIP file or spreadsheet and cannot be opened/,
    "a,b\n1,2\n" => /No column can be read as “address”.*a \| b/,
    "<script>alert(1)</script>\nx\n" => /No column can be read/
  }.each do |text, reason|
    it "says what is wrong with #{text.inspect[0, 40]}" do
      expect { read(text.b) }.to raise_error(Orvant::Error::UnusableTable, reason)
    end
  end

  it "names the line of each rejected row as an editor counts it" do
    expect(read("address\n#{good}\nbad\n\n\"two\nlines\"\nworse\n").rejected.map(&:line)).to eq([3, 5, 7])
  end

  {
    "1,234.50" => 123_450,
    "1.234,50" => 123_450,
    "€ 12" => 1_200,
    "12.345" => 1_235,
    "1'000" => 100_000,
    "EUR 3" => 300,
    "-4.20" => -420,
    "" => nil
  }.each do |text, cents|
    it "reads the amount #{text.inspect}" do
      expect(Orvant::Inventory::Amount.cents(text)).to eq(cents)
    end
  end

  it "reads dots by what the commas of their column mean" do
    read = read("address;spend\n#{good};1.234\n#{good}b;12,50\n#{good}c;1.234,00\n")
    expect(read.sightings.map(&:spend)).to eq([123_400, 1_250, 123_400])
    expect(%w[1.200 1,200 12.0 –].map { |text| Orvant::Inventory::Amount.count(text) }).to eq([1_200, 1_200, 12, nil])
    expect([12.0, 1.234, 0.5].map { |number| Orvant::Inventory::Amount.written(number) }).to eq(%w[12 1.2340 0.5])
  end

  it "knows one sighting by address, kind and place" do
    one, two, three =
      read(
        "address,kind,found\nHTTP://www.skerryline.example,ad,x\nhttp://www.skerryline.example/,ad,x\nhttp://www.skerryline.example/,ad,y\n"
      ).sightings
    expect(one.identity).to eq(two.identity)
    expect(three.identity).not_to eq(one.identity)
  end
end

RSpec.describe Orvant::Export::CSVTable do
  {
    "=cmd()" => "'=cmd()",
    "+1+1" => "'+1+1",
    "-2+3" => "'-2+3",
    "@x" => "'@x",
    "\tx" => "'\tx",
    "-5" => "-5",
    "+x" => "'+x",
    "a=b" => "a=b",
    nil => ""
  }.each do |cell, text|
    it "writes #{cell.inspect} so that no spreadsheet computes it" do
      expect(described_class.neutral(cell)).to eq(text)
    end
  end

  it "quotes by RFC 4180" do
    expect(described_class.write(%w[a b], [["x,y", "say \"hi\"\nthere"]])).to eq(
      "a,b\r\n\"x,y\",\"say \"\"hi\"\"\nthere\"\r\n"
    )
  end
end
