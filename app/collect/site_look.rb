# frozen_string_literal: true

# What a site says of itself, so that nobody has to type what can be found out: where it leads, which hosts
# are its own, its language and its currency.
class SiteLook
  # So many hosts are proposed, and so many others named.
  MOST_HOSTS = 50
  # Signs of a currency in a page's text, each of one alone.
  SIGNS = {
    "€" => "EUR",
    "£" => "GBP",
    "₹" => "INR",
    "₺" => "TRY",
    "₪" => "ILS",
    "₩" => "KRW",
    "₽" => "RUB",
    "zł" => "PLN",
    "Kč" => "CZK"
  }.freeze
  CURRENCY = /"priceCurrency"\s*:\s*"([A-Z]{3})"|itemprop=["']?priceCurrency["']?\s+content=["']?([A-Z]{3})\b/

  # @param text [String] the site's address, as a person types it
  # @param host_map [Hash{String => String}] where hosts in one's own network really are
  # @raise [Orvant::Error] where it is no address, or the host map none
  def initialize(text, host_map = {})
    @address = Orvant::Address.parse(text.match?(%r{\A[a-z]+://}i) ? text.strip : "https://#{text.strip}")
    @plain = !text.match?(%r{\A[a-z]+://}i)
    @guard = Orvant::Net::Guard.new(
      host_map: Orvant::Net::HostMap.read(host_map).within(Settings.reach),
      billed: Orvant::Hosts.new([]),
      reach: Settings.reach
    )
  end

  # @return [Hash{String => Object}] address: where it leads · outcome, reason: of the trail · title,
  #   language, currency: nil where the page does not say · own_hosts: Array of host and why · other_hosts:
  #   hosts that its page leads to besides
  def call
    trail = follow(@address)
    trail = follow(Orvant::Address.new(@address.raw.sub(/\Ahttps/, "http"))) if @plain && !trail.answered?
    found(trail)
  end

  private

  def follow(address)
    door = Orvant::Net::Door.new(guard: @guard, trusted: Settings["ORVANT_CA_FILE"])
    ended = nil
    Orvant::Trail::Follower.new(door).follow_all([address.raw].method(:shift)) { |_, (trail)| ended = trail }
    ended
  end

  def found(trail)
    final = Orvant::Address.new(trail.final_address)
    markup = trail.markup if trail.answered?
    own = trail.answered? ? own_hosts(trail, final, markup) : {}
    {"address" => final.raw,
     "outcome" => trail.outcome,
     "reason" => trail.reason,
     "title" => markup&.title,
     "language" => language(markup&.language.to_s),
     "currency" => markup && currency(trail.body.to_s.b.force_encoding(Encoding::UTF_8).scrub, markup.text),
     "own_hosts" => own.first(MOST_HOSTS).map { |host, why| {"host" => host, "why" => why} },
     "other_hosts" => markup ? (linked(markup, final) - own.keys).first(MOST_HOSTS) : []}
  end

  def own_hosts(trail, final, markup)
    own = {final.host => "the site itself"}
    twin = twin(final.host)
    if twin &&
        follow(Orvant::Address.new("#{final.scheme}://#{twin}/")).then { |one|
          one.answered? &&
              one.final_address.include?("//#{final.host}")
        }
      own[twin] ||= "leads to the site"
    end
    trail.hops.each do |hop|
      Orvant::Address.new(hop.address).host.then do |host|
        own[host] ||= "leads to the site" if site(host) == site(final.host)
      end
    end
    markup.alternates.each do |text|
      host_of(text, final)&.then { |host| own[host] ||= "the page names it as another language of its own" }
    end
    linked(markup, final).each do |host|
      own[host] ||= "the page leads to it, under the same name" if site(host) == site(final.host)
    end
    own
  end

  def twin(host)
    return if host.match?(/\A[\d.:\[\]]+\z/)

    host.start_with?("www.") ? host.delete_prefix("www.") : "www.#{host}"
  end

  def site(host) = Orvant::Address::HostName.site(host)

  # @return [Array<String>] hosts to which the page leads, the commonest first
  def linked(markup, final)
    markup.anchors.filter_map { |one| host_of(one.href, final) }.tally
      .sort_by { |host, times| [-times, host] }.map(&:first)
  end

  def host_of(text, base)
    address = Orvant::Address::Reference.resolve(text, base)
    address.host if %w[http https].include?(address.scheme)
  rescue Orvant::Error::UnusableAddress
    nil
  end

  # As much of it as visitors are told apart by: pages write it in any case, and some with an underscore.
  def language(text)
    primary, region = text.tr("_", "-").match(/\A([A-Za-z]{2,3})(?:-([A-Za-z]{2}))?(?:-|\z)/)&.captures
    primary && [primary.downcase, region&.upcase].compact.join("-")
  end

  def currency(source, text)
    named = source.scan(CURRENCY).flatten.compact.tally.max_by(&:last)&.first
    named || SIGNS.select { |sign, _| text.match?(sign) }.max_by { |sign, _| text.scan(sign).size }&.last
  end
end
