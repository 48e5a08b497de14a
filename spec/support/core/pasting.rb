# frozen_string_literal: true

# Makes conventions, links that follow them, faults in these and ways on which they are spoilt, the same for the
# same seed.
class Pasting
  WORDS = %w[loaf rye oat barley crust crumb oven miller yeast malt bran spelt roll bagel scone tart].freeze
  CASES = %w[lower any].freeze

  attr_reader :random, :convention

  def initialize(seed)
    @random = Random.new(seed)
    @convention = Orvant::Convention.read(rules)
  end

  def any(list) = list.sample(random: random)

  # Structured campaigns or plain ones, carriers of their own names, closed and open roles, identifiers.
  def rules
    @sources = WORDS.sample(4, random: random)
    @campaigns = Array.new(6) { "#{any([2025, 2026])}-#{any(%w[north south])}-#{any(WORDS)}" }
    own = any([true, false])
    @carriers = %w[source medium campaign content].to_h { |role| [role, own ? "q_#{role}" : "utm_#{role}"] }
    {"name" => "Larder",
     "own_hosts" => ["www.larder.example", "larder.example"],
     "relay_hosts" => ["s.larder.example"],
     "roles" => roles,
     "channels" => [{"channel" => "Mail", "when" => [{"field" => "medium", "is" => ["email"]}]},
       {"channel" => "Paid", "paid" => true, "when" => [{"field" => "medium", "is" => ["paid"]}]}],
     "pairs" => @sources.product(%w[email paid]).map { |source, medium| {"source" => source, "medium" => medium} },
     "dialects" => [{"network" => "Spoonads", "open" => "[[", "close" => "]]", "tokens" => [{"token" => "click", "sample" => "c1"}, {"token" => "land", "landing" => "plain"}]}],
     "identifiers" => [{"parameter" => "qsid", "kinds" => ["ad"], "token" => "click"}]}
  end

  def roles
    letters = any(CASES)
    closed = any([true, false])
    [
      {"role" => "source", "carriers" => [@carriers["source"]], "required" => "always", "case" => "lower",
       "vocabulary" => {"closed" => true, "values" => @sources.map { |value| {"value" => value} }}},
      {"role" => "medium", "carriers" => [@carriers["medium"]], "required" => "always", "case" => "lower",
       "vocabulary" => {"closed" => true, "values" => [{"value" => "email", "aliases" => ["e-mail", "newsletter"]}, {"value" => "paid"}]}},
      {"role" => "campaign", "carriers" => [@carriers["campaign"]], "required" => "always", "case" => letters,
       **(closed ? {"vocabulary" => {"closed" => true, "values" => @campaigns.uniq.map { |value| {"value" => value} }}} : {}),
       "segments" => [
         {"segment" => "year", "number" => {"from" => 2024, "to" => 2030}},
         {"segment" => "place", "values" => %w[north south]},
         {"segment" => "theme", "text" => {}}
       ].first(closed ? 0 : 3)}.reject { |_, value| value == [] },
      {"role" => "content", "carriers" => [@carriers["content"]], "case" => "lower", "characters" => ["a-z", "0-9", "-"]}
    ]
  end

  # @return [Array(String, String)] kind and address of a link with nothing wrong
  def link
    kind = any(%w[message ad post])
    pairs = {
      @carriers["source"] => any(@sources),
      @carriers["medium"] => (kind == "ad") ? "paid" : "email",
      @carriers["campaign"] => any(@campaigns),
      @carriers["content"] => "#{any(WORDS)}-#{random.rand(9)}"
    }
    pairs["size"] = any(%w[s m l%20x 4+5]) if random.rand < 0.4
    pairs["qsid"] = "[[click]]" if kind == "ad"
    query = pairs.map { |pair| pair.join("=") }.then { |all| (random.rand < 0.3) ? all.shuffle(random: random) : all }.join("&")
    [kind, "http://www.larder.example/#{any(WORDS)}?#{query}#{any(["", "", "#top", "#/route/a"])}"]
  end

  # Each takes an address and spoils it.
  FAULTS = {
    upper: ->(text, one) { text.sub(/(#{one.carrier}=)([^&#]+)/) { $1 + $2.capitalize } },
    name: ->(text, one) { text.sub(one.carrier, one.any([one.carrier.upcase, one.carrier.tr("_", "-"), one.carrier.sub("ou", "uo"), one.carrier.sub(/.\z/, "")])) },
    blank: ->(text, one) { text.sub(/(#{one.carrier}=[^&#]+)/) { $1 + one.any(["%20", "+", "%C2%A0", "."]) } },
    within: ->(text, one) { text.sub(/(#{one.carrier}=[a-z]{2})/) { $1 + one.any(["%20", "%E2%80%8B", "%2520"]) } },
    empty: ->(text, one) { text.sub(/(#{one.carrier}=)[^&#]+/) { $1 } },
    gone: ->(text, one) { text.sub(/#{one.carrier}=[^&#]+&?/, "") },
    twice: ->(text, one) { text.sub(/(#{one.carrier}=[^&#]+)/) { "#{$1}&#{$1}" } },
    mark: ->(text, one) { text.sub("&", one.any(["?", "&amp;", ";", "%26"])) },
    first: ->(text, _) { text.sub("?", "&") },
    behind: lambda { |text, one|
      moved = text[/&(#{one.carrier}=[^&#]+)/, 1] or next text
      "#{text.sub("&#{moved}", "").sub(/#.*/, "")}##{moved}"
    },
    mail: ->(text, one) { text.sub(/(\?[^#]*)/) { "#{$1}&#{one.any(%w[email who ref])}=ada%40larder.example" } },
    mail_in: ->(text, one) { text.sub(/(#{one.carrier}=)[^&#]+/) { "#{$1}ada%40larder.example" } },
    mail_path: ->(text, _) { text.sub(".example/", ".example/ada@larder.example/") },
    slip: ->(text, one) { text.sub(/(#{one.carrier}=[a-z0-9-]{3})([a-z])/) { $1 + $2 * 2 } },
    token: ->(text, one) { text.sub(/(#{one.carrier}=)[^&#]+/) { "#{$1}#{one.any(["[[click]]", "[[klick]]", "{{name}}", "[[click"])}" } },
    swapped: ->(text, one) { text.sub(/(#{one.carriers["source"]}=)([^&#]+)/) { "#{$1}email" }.sub(/(#{one.carriers["medium"]}=)([^&#]+)/) { "#{$1}#{one.sources.first}" } },
    alike: ->(text, one) { text.sub(/(#{one.carrier}=[^&#]*?)e/) { "#{$1}%D0%B5" } },
    alias: ->(text, one) { text.sub(/(#{one.carriers["medium"]}=)[^&#]+/) { "#{$1}newsletter" } },
    identifier: ->(text, one) { text.sub(/&?qsid=[^&#]+/) { one.any(["", "&qsid=", "&qsid=[[klick]]"]) } },
    coded: ->(text, one) { text.sub(/(#{one.carrier}=[a-z])/) { "#{$1}%" } }
  }.freeze

  attr_reader :carriers, :sources

  def carrier = any(@carriers.values)

  # @return [String] the address with one to three faults
  def spoilt(address)
    FAULTS.values.sample(1 + random.rand(3), random: random).reduce(address) { |text, fault| fault.call(text, self) }
  end

  def judge(address, kind) = Orvant::Checks::Param.judge(Orvant::Address.parse(address), convention, kind: kind)

  # What a server on the way does to a query.
  SPOILERS = {
    keep: ->(query) { query },
    drop: ->(_) { "" },
    drop_one: ->(query) { query.split("&").drop(1).join("&") },
    names: ->(query) { query.gsub(/(?<=\A|&)[a-z_]+(?==)/, &:upcase) },
    fold: ->(query) { query.downcase },
    cut: ->(query) { query.gsub(/(=[^&]{3})[^&]+/) { $1 } },
    again: ->(query) { query.gsub("%", "%25") },
    own: ->(query) { query.sub(/=[^&]+/, "=theirs") },
    broken: ->(query) { "x=1?#{query}" }
  }.freeze

  # @return [Hash{String => String}] by host, what becomes of a query there; one host leads to the next
  def ways
    @ways ||= {
      "s.larder.example" => ["larder.example", any(SPOILERS.keys)],
      "larder.example" => ["www.larder.example", any(SPOILERS.keys)]
    }
  end

  # Mends one server.
  def mend(host) = ways[host] = [ways.fetch(host).first, :keep]

  # @return [Orvant::Trail] as the stand-in world answers
  def follow(text, **)
    addresses = [Orvant::Address.new(text)]
    addresses << led_on(addresses.last) while ways.key?(addresses.last.host)
    hops = addresses.each_with_index.map do |one, index|
      after = addresses[index + 1]
      Orvant::Trail::Hop.new(address: one.raw, status: after ? 302 : 200, how: after && "status", ms: 1.0, params: after ? Orvant::Trail::Fates.between(one, after) : [])
    end
    Orvant::Trail.new(
      address: text,
      outcome: "landed",
      final_address: addresses.last.raw,
      status: 200,
      engine: "http",
      visitor: "desktop",
      hops: hops,
      attempts: [],
      landing: {"title" => "Bread", "canonical" => nil, "noindex" => false, "referrer_policy" => nil}
    )
  end

  def led_on(address)
    host, deed = ways.fetch(address.host)
    query = SPOILERS.fetch(deed).call(address.query.to_s)
    Orvant::Address.new("http://#{host}#{address.path}#{"?#{query}" unless query.empty?}#{"##{address.fragment}" if address.fragment}")
  end
end
