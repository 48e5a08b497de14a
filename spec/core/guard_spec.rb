# frozen_string_literal: true

RSpec.describe Orvant::Net::Guard do
  # Names resolve to what stands here and to nothing else, so that no spec asks a real resolver.
  names = {
    "public.example" => ["93.184.216.34"],
    "inside.example" => ["10.1.2.3"],
    "split.example" => %w[93.184.216.34 127.0.0.1],
    "six.example" => ["2606:2800:220:1::1"],
    "six-inside.example" => ["fd00::1"],
    "mapped.example" => ["::ffff:192.168.1.1"],
    "meta.example" => ["169.254.169.254"]
  }
  hosts = {
    "demo.example" => "127.0.0.1:8099",
    "*.demo.example" => "127.0.0.1:8098",
    "gone.demo.example" => nil,
    "six.demo.example" => "[::1]:81"
  }
  subject(:guard) do
    described_class.new(
      host_map: Orvant::Net::HostMap.new(hosts),
      billed: Orvant::Hosts.new(%w[click.example *.ads.example]),
      resolver: ->(host) { names.fetch(host) { raise SocketError } }
    )
  end

  def permit(text) = guard.permit(Orvant::Address.new(text))

  %w[
    http://127.0.0.1/
    http://127.0.0.1:8099/
    http://127.1/
    http://127.0.1/
    http://2130706433/
    http://0x7f000001/
    http://0x7f.0.0.1/
    http://0177.0.0.1/
    http://017700000001/
    http://0/
    http://0.0.0.0/
    http://10.0.0.1/
    http://10.255.255.255/
    http://100.64.0.1/
    http://169.254.169.254/latest/
    http://0xa9fea9fe/
    http://2852039166/
    http://172.16.0.1/
    http://172.31.255.255/
    http://192.0.0.1/
    http://192.0.2.1/
    http://192.168.0.1/
    http://198.18.0.1/
    http://198.51.100.1/
    http://203.0.113.1/
    http://224.0.0.1/
    http://239.255.255.255/
    http://240.0.0.1/
    http://255.255.255.255/
    http://[::1]/
    http://[::]/
    http://[::ffff:127.0.0.1]/
    http://[::ffff:7f00:1]/
    http://[::ffff:a9fe:a9fe]/
    http://[::127.0.0.1]/
    http://[fe80::1]/
    http://[fc00::1]/
    http://[fd12:3456::1]/
    http://[ff02::1]/
    http://[64:ff9b::7f00:1]/
    http://[2002:7f00:1::]/
    http://[2001:db8::1]/
    http://[100::1]/
    http://[fec0::1]/
    http://[::ffff:0:7f00:1]/
    http://[1::1]/
    http://[3fff::1]/
    http://[4000::1]/
    http://[9000::1]/
    http://localhost/
    http://localhost:8099/
    http://LOCALHOST/
    http://localhost./
    http://a.localhost/
    http://inside.example/
    http://split.example/
    http://six-inside.example/
    http://mapped.example/
    http://meta.example/
    http://user@127.0.0.1/
    http://public.example@10.0.0.1/
    http://256.256.256.256/
    http://1.2.3.4.5/
    http://0x/
    http://[::1%25lo]/
    http://click.example/
    http://CLICK.example/x
    http://a.ads.example/
    http://b.a.ads.example/
    ftp://public.example/
    file:///etc/passwd
    javascript:alert(1)
    gopher://public.example/
    data:text/html,x
    ws://public.example/
  ].each do |text|
    it "refuses #{text}" do
      expect { permit(text) }.to raise_error(Orvant::Error::Refused)
    end
  end

  # Spellings that browsers read as the address: parts joined or not, in any base, with zeros before them,
  # full-width, escaped, with other dots.
  it "refuses thousands of spellings of addresses within" do
    random = Random.new(2026)
    permitted =
      Array
        .new(3_000) do
          spelled(
            %w[127.0.0.1 10.1.2.3 192.168.0.1 169.254.169.254 172.16.5.4 100.64.0.1 224.0.0.1 0.0.0.0].sample(
              random: random
            ),
            random
          )
        end
        .reject { |host| refused?("http://#{host}/x") }
    expect(permitted).to eq([])
  end

  def spelled(ip, random)
    parts = ip.split(".").map(&:to_i)
    kept = parts.shift(random.rand(0..3))
    joined = kept + [parts.reduce(0) { |sum, part| sum * 256 + part }]
    text = joined.map { |number| format(%w[%d 0x%x 0X%X 0%o 000%o 0x00%x].sample(random: random), number) }.join(".")
    text =
      text
        .chars
        .map do |char|
          if random.rand < 0.1
            [format("%%%02x", char.ord), char.tr("0-9.", "０-９。"), char.tr("0-9.", "𝟎-𝟗｡")].sample(random: random)
          else
            char
          end
        end
        .join
    (random.rand < 0.1) ? "#{text}." : text
  end

  def refused?(text)
    guard.permit(Orvant::Address::Reference.resolve(text))
    false
  rescue Orvant::Error::Refused
    true
  end

  {
    "http://public.example/" => ["93.184.216.34", 80],
    "https://public.example/" => ["93.184.216.34", 443],
    "http://public.example:8080/" => ["93.184.216.34", 8080],
    "http://six.example/" => ["2606:2800:220:1::1", 80],
    "http://93.184.216.34/" => ["93.184.216.34", 80],
    "http://0x5db8d822/" => ["93.184.216.34", 80],
    "http://demo.example/" => ["127.0.0.1", 8099],
    "https://demo.example:444/" => ["127.0.0.1", 8099],
    "http://DEMO.example/" => ["127.0.0.1", 8099],
    "http://www.demo.example/" => ["127.0.0.1", 8098],
    "http://a.b.demo.example/" => ["127.0.0.1", 8098],
    "http://six.demo.example/" => ["::1", 81]
  }.each do |text, (ip, port)|
    it "permits #{text} at the very address that was checked" do
      expect(permit(text).to_a).to eq([ip, port])
    end
  end

  %w[http://nowhere.example/ http://gone.demo.example/].each do |text|
    it "says that #{text} does not resolve" do
      expect { permit(text) }.to raise_error(Orvant::Error::Unreachable, /does not resolve/)
    end
  end

  it "resolves once: the answer that was checked is the one connected to" do
    answers = [["93.184.216.34"], ["127.0.0.1"]]
    guard = described_class.new(resolver: ->(_) { answers.shift })

    expect(guard.permit(Orvant::Address.new("http://turning.example/")).ip).to eq("93.184.216.34")
    expect(answers.size).to eq(1)
  end

  describe "host maps" do
    {
      '{"a.example": "127.0.0.1:80"' => /no valid JSON/,
      '{"a.example": "localhost:80"}' => %r{at /a.example},
      '{"a.example": 80}' => %r{at /a.example},
      '["a.example"]' => /top level/,
      '"x"' => /top level/
    }.each do |text, reason|
      it "names what is wrong with #{text}" do
        expect { Orvant::Net::HostMap.read(text) }.to raise_error(Orvant::Error::UnusableDocument, reason)
      end
    end
  end
end

RSpec.describe Orvant::Net::Reach do
  # what it is told, where a host map leads => whether that may be asked
  {
    ["", "127.0.0.1", 80] => false,
    ["", "93.184.216.34", 80] => true,
    ["127.0.0.0/8, ::1", "127.0.0.1", 6_379] => true,
    ["127.0.0.0/8, ::1", "::1", 80] => true,
    ["127.0.0.0/8", "::ffff:127.0.0.1", 80] => true,
    ["127.0.0.0/8", "10.0.0.1", 80] => false,
    ["10.1.0.0/16:80", "10.1.2.3", 80] => true,
    ["10.1.0.0/16:80", "10.1.2.3", 81] => false,
    ["10.1.0.0/16:80-90", "10.1.2.3", 90] => true,
    ["10.1.0.0/16:80-90", "10.2.2.3", 85] => false,
    ["[fd00::/8]:8000-8999", "fd00::7", 8_080] => true,
    ["[fd00::/8]:8000-8999", "fd00::7", 80] => false,
    ["fd00::/8", "fd12::1", 80] => true,
    ["0.0.0.0/0", "169.254.169.254", 80] => true
  }.each do |(told, ip, port), permitted|
    it "#{permitted ? "permits" : "refuses"} #{ip}:#{port} where it is told #{told.inspect}" do
      expect(described_class.read(told).permit?(Orvant::Net::Destination.new(ip: ip, port: port))).to be(permitted)
    end
  end

  %w[nonsense 10.0.0.0/99 10.0.0.1:x 10.0.0.1:80-].each do |told|
    it "says that #{told} is no range" do
      expect { described_class.read(told) }.to raise_error(Orvant::Error::UnusableDocument, /no range/)
    end
  end

  it "keeps a host map from what it is not told of" do
    map = Orvant::Net::HostMap.new("inside.test" => "10.0.0.1:80")
    guard = Orvant::Net::Guard.new(host_map: map, reach: described_class.read("127.0.0.0/8"))
    expect { guard.permit(Orvant::Address.new("http://inside.test/")) }.to raise_error(Orvant::Error::Refused, /does not ask.*ORVANT_REACH/)
    expect { map.within(described_class.read("")) }.to raise_error(Orvant::Error::UnusableDocument, /ORVANT_REACH/)
  end
end
