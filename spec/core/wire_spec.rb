# frozen_string_literal: true

RSpec.describe Orvant::Net::Wire do
  # What a peer sends, in pieces, and then closes.
  def sent(*pieces)
    ours, theirs = UNIXSocket.pair
    writer = Thread.new { pieces.each { |piece| theirs.write(piece) && theirs.flush } && theirs.close }
    yield(ours).tap { writer.join }
  ensure
    writer&.kill
    [ours, theirs].compact.each { |one| one.close unless one.closed? }
  end

  {
    "a head alone" => [["GET / HTTP/1.1\r\nHost: a\r\n\r\n"], ["GET / HTTP/1.1\r\nHost: a\r\n\r\n", ""]],
    "a head with some of its body" => [["POST / HTTP/1.1\r\n\r\nbo", "dy"], ["POST / HTTP/1.1\r\n\r\n", /\Abo(dy)?\z/]],
    "a head cut anywhere" => [["GET / HT", "TP/1.1\r", "\nHost: a\r\n\r", "\n"], ["GET / HTTP/1.1\r\nHost: a\r\n\r\n", ""]],
    "lines without carriage returns (RFC 9112, 2.2)" => [["GET / HTTP/1.1\nHost: a\n\n"], ["GET / HTTP/1.1\nHost: a\n\n", ""]],
    "a peer that closes at once" => [[], nil],
    "a head that breaks off" => [["GET / HTTP/1.1\r\nHost:"], nil],
    "bytes that are no text" => [["\xFF\x00\r\n\r\n"], ["\xFF\x00\r\n\r\n".b, ""]]
  }.each do |what, (pieces, expected)|
    it "reads #{what}" do
      head = sent(*pieces) { |io| described_class.read_head(io) }
      expected ? expect(head).to(match(expected)) : expect(head).to(be_nil)
    end
  end

  it "takes no head without end" do
    endless = "GET / HTTP/1.1\r\n#{"X: y\r\n" * 20_000}"
    expect(sent(endless) { |io| described_class.read_head(io) }).to be_nil
  end

  {
    [5, "", ["hello"]] => "hello",
    [5, "he", ["llo"]] => "hello",
    [5, "hello and more", []] => "hello",
    [5, "", ["hello, the next request"]] => "hello",
    [0, "", []] => ""
  }.each do |(length, so_far, pieces), expected|
    it "hands on #{length} bytes of #{so_far.inspect} and #{pieces.inspect}, and none of what follows" do
      got = +""
      sent(*pieces) { |io| described_class.each_piece(io, length, so_far) { |piece| got << piece } }
      expect(got).to eq(expected)
    end
  end

  it "says that a body broke off" do
    expect { sent("hel") { |io| described_class.each_piece(io, 5, "") { |_| nil } } }.to raise_error(EOFError)
  end

  {
    "Host: a" => {"host" => "a"},
    "HOST:a\r\nhost: b" => {"host" => "a"},
    "X: a: b" => {"x" => "a: b"},
    "no header" => {},
    "X: \xFF" => {"x" => "\u{FFFD}"}
  }.each do |lines, expected|
    it "reads #{lines.inspect} as #{expected}" do
      expect(described_class.headers("GET / HTTP/1.1\r\n#{lines}\r\n\r\n".b)).to eq(expected)
    end
  end
end

RSpec.describe Orvant::Browser::Seal do
  subject(:seal) do
    described_class.new(
      own: Orvant::Hosts.new(["*.skerryline.example", "skerryline.example"]),
      signatures: demo_signatures,
      through: Orvant::Hosts.new(["pay.coinquay.example"])
    )
  end

  def verdict(line)
    method, text, *rest = line.split
    purpose, *how = rest
    seal.verdict(
      Orvant::Browser::Request.new(
        method: method,
        address: address(text),
        headers: how.include?("socket") ? {"upgrade" => "WebSocket"} : {},
        purpose: (purpose unless purpose == "unsaid"),
        context: how.include?("window") ? "window" : "page",
        form: how.include?("form"),
        home: how.include?("home")
      )
    )
  end

  {
    "POST http://www.skerryline.example/enquiry Document form" => true,
    "GET http://WWW.SKERRYLINE.EXAMPLE./picture Image" => true,
    "POST http://www.skerryline.example/count unsaid" => true,
    "GET http://widgets.test/book Document" => true,
    "GET http://widgets.test/book.js Script" => true,
    "GET http://widgets.test/book.css Stylesheet" => true,
    "GET http://widgets.test/book.woff2 Font" => true,
    "POST http://widgets.test/book.js Script" => false,
    "GET http://widgets.test/book Document form" => false,
    "GET http://widgets.test/book Document window" => false,
    "GET http://widgets.test/pixel Image" => false,
    "POST http://widgets.test/beacon Ping" => false,
    "GET http://widgets.test/data Fetch" => false,
    "GET http://widgets.test/data XHR" => false,
    "GET http://widgets.test/data Fetch home" => true,
    "GET http://widgets.test/data XHR home" => true,
    "POST http://widgets.test/data Fetch home" => false,
    "PUT http://widgets.test/data XHR home" => false,
    "GET http://widgets.test/pixel Image home" => false,
    "GET http://widgets.test/talk Fetch home socket" => false,
    "GET http://widgets.test/whatever unsaid home" => false,
    "GET http://widgets.test/stream EventSource" => false,
    "GET http://widgets.test/talk Script socket" => false,
    "GET http://widgets.test/whatever unsaid" => false,
    "OPTIONS http://widgets.test/book.js Script" => false,
    "GET http://skerryline.example.widgets.test/pixel Image" => false,
    "POST http://pay.coinquay.example/session Fetch" => true,
    "POST http://sub.pay.coinquay.example/session Fetch" => false,
    "GET http://in.gullwatch.example/c Script" => false,
    "GET http://in.gullwatch.example/%63 Image" => false
  }.each do |line, leaves|
    it "#{leaves ? "lets leave" : "holds"} #{line}" do
      expect(verdict(line).leaves).to be(leaves)
    end
  end

  it "names the tag whose signal it is" do
    expect(verdict("GET http://IN.gullwatch.example./c Image").signature.tag).to eq("gullwatch")
    expect(verdict("GET http://widgets.test/c Image").signature).to be_nil
  end
end
