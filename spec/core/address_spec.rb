# frozen_string_literal: true

RSpec.describe Orvant::Address do
  describe "what is no address" do
    {
      "" => /empty/,
      "   " => /empty/,
      "www.skerryline.example/day-pass" => %r{does not begin with http:// or https://},
      "mailto:crew@skerryline.example" => /does not begin/,
      "javascript:alert(1)" => /does not begin/,
      "http:/one-slash.example" => /does not begin/,
      "http://" => /names no host/,
      "http:///path" => /names no host/,
      "http://a b.example/" => /cannot be the name of a server/,
      "http://a<b.example/" => /cannot be the name of a server/,
      "http://a.example:0/" => /port/,
      "http://a.example:99999/" => /port/,
      "http://a.example/\nhttp://b.example/" => /line break/,
      "http://a.example/\u0000" => /control character/,
      "http://a.example/day-pa…" => /cut off/,
      "http://a.example/\xFF" => /not readable text/,
      "http://a.example/#{"x" * 100_000}" => /100017 characters long/
    }.each do |text, reason|
      it "says why for #{text.inspect[0, 60]}" do
        expect { described_class.parse(text) }.to raise_error(Orvant::Error::UnusableAddress, reason)
      end
    end
  end

  it "loses no byte of unusual but legal addresses" do
    [
      "HTTP://User:pw@WWW.Skerryline.example:8080/a//b/../c?x=1&&y&z=#frag?ment",
      "http://xn--bcher-kva.example/%C3%BC?q=a%20b+c",
      "http://skerryline.example?no=path",
      "https://[2001:db8::1]:8443/",
      "http://skerryline.example/?a[]=1&a[]=2&empty=&switch#/route/in?fragment=1"
    ].each { |text| expect(described_class.parse(text).raw).to eq(text) }
  end

  it "reads the query as ordered pairs" do
    pairs = address("http://a.example/?utm_source=Caf%C3%A9+1&flag&b=&=v&b=%zz&&c=1=2").pairs

    expect(pairs.map { |pair| [pair.name, pair.value] }).to eq(
      [["utm_source", "Café 1"], ["flag", ""], ["b", ""], ["", "v"], %w[b %zz], %w[c 1=2]]
    )
  end

  it "changes only the pairs it is told to" do
    before = address("http://a.example/p?x=%7e&utm_source=A%20B&y[]=1&y[]=2#f")
    after = before.with(edits: {before.pairs[1] => "a&b", before.pairs[2] => nil}, added: [%w[utm_medium é]])

    expect(after.raw).to eq("http://a.example/p?x=%7e&utm_source=a%26b&y[]=2&utm_medium=%C3%A9#f")
  end

  describe "normal form (RFC 3986, 6.2)" do
    {
      %w[HTTP://A.Example http://a.example/] => true,
      %w[http://a.example:80/x http://a.example/x] => true,
      %w[https://a.example:443 https://a.example/] => true,
      %w[http://a.example/%7euser http://a.example/~user] => true,
      %w[http://a.example/%c3%a4 http://a.example/%C3%A4] => true,
      %w[http://a.example/a/./b/../c http://a.example/a/c] => true,
      %w[http://a.example/?q=%41 http://a.example/?q=A] => true,
      %w[http://a.example/A http://a.example/a] => false,
      %w[http://a.example/?q=A http://a.example/?q=a] => false,
      %w[http://a.example/?a=1&b=2 http://a.example/?b=2&a=1] => false,
      %w[http://a.example/ https://a.example/] => false,
      %w[http://a.example/x http://a.example/x/] => false,
      %w[http://a.example/%2F http://a.example//] => false
    }.each do |(one, other), same|
      it "#{same ? "equals" : "differs"}: #{one} and #{other}" do
        expect(address(one).normal_form == address(other).normal_form).to be(same)
      end
    end
  end

  # What browsers make of a target; the screens specs hold the same table against Chromium's own `URL`.
  describe "targets as browsers read them" do
    Targets::CASES.each do |reference, expected|
      it "resolves #{reference.inspect}" do
        expect(described_class::Reference.resolve(reference, address(Targets::BASE)).raw).to eq(expected)
      end
    end

    # One on a page with a fragment, which it inherits, is taken apart and built anew.
    it "takes what seems to stand as browsers request it just as it is built from its parts" do
      reference, random = described_class::Reference, Random.new(12)
      signs = [*"a".."c", *"0".."5", *"-._~!$&'()*+,;=:@%/?#[]|^`{}\\\" ".chars, "%2e", "%5f"]
      some = ->(of, count) { Array.new(count) { of.sample(random: random) }.join }
      texts = Array.new(60_000) { "#{%w[http https].sample(random: random)}://a#{some["b0.-x".chars, 6]}c/#{some[signs, random.rand(12)]}" }
      settled = texts.grep(reference::SETTLED)
      built = settled.map { |text| reference.resolve(text, address("#{Targets::BASE[/[^#]*/]}#here")).raw }
      expect(settled.size).to be > 3_000
      expect(built).to eq(settled.map { |text| "#{text}#here" })
      expect(settled.map { |text| reference.resolve(text).raw }).to eq(settled)
    end

    it "resolves or refuses whatever stands there, damaged bytes too" do
      damage = Damage.new(11)
      faults =
        Targets
          .strung(3_000, seed: 11)
          .flat_map { |target, base| [[target, base], [damage.bytes(target), base]] }
          .filter_map { |target, base| untold(target, base) }
      expect(faults).to eq([])
    end

    def untold(target, base)
      Orvant::Address::Reference.resolve(target, address(base))
      nil
    rescue Orvant::Error::UnusableAddress => error
      target.inspect unless error.message.match?(/\A\S.{10,}/m)
    end

    [
      "javascript:alert(1)",
      "mailto:a@b.example",
      "data:text/html,x",
      "ftp://a.example/",
      "intent://a.example/",
      "http://",
      "http://exa mple/"
    ].each do |reference|
      it "refuses #{reference}" do
        expect { described_class::Reference.resolve(reference, address(Targets::BASE)) }.to raise_error(
          Orvant::Error::UnusableAddress
        )
      end
    end
  end

  it "takes an address apart for the eye without losing a byte" do
    text = "http://www.skerryline.example:80/day-pass?utm_source=a&&x&utm_medium=#part"
    parts = Orvant::Convention::Anatomy.of(address(text), demo_convention)

    expect(parts.map(&:text).join).to eq(text)
    expect(parts.select(&:role).map { |part| [part.part, part.role, part.pair] }).to eq(
      [["name", "source", 0], ["value", "source", 0], ["name", "medium", 2]]
    )
  end
end
