# frozen_string_literal: true

require "async"

# Refreshes put together by chance, in headers and wherever a page can have one: what HTTP calls certain is
# what Chromium does, in `bin/test long`.
RSpec.describe Orvant::Page::Markup, "of refreshes", if: ENV.key?("ORVANT_LONG") do
  random = Random.new(Integer(ENV.fetch("ORVANT_SEED", 1)))
  pick = ->(list) { list[random.rand(list.size)] }
  content = lambda do
    quote = pick.call(["", "", "", "'", "\"", "`"])
    [
      pick.call(["0", "1", "0.5", "00", "+0", "-1", "", " 0", "0 ", ".5", "0x1", "1e1", "0;", "\uFF10"]),
      pick.call([";", ",", " ", "; ", " ;", ";;", "", "\t", "\n;", " , ", ";\f"]),
      pick.call(["url=", "URL=", "Url =", "url= ", "url", "ur", "u", "", "uri=", "url==", "url =\n", "xurl="]), quote,
      pick.call(["/land", "/land?a=1;b=2", "land", "?q=1", "#f", "//b.example/land", "http://b.example/x y", "/l'and", "/l\"and", "", "/%zz", "/\u00FC", " /land ", "\\land", "./../land", "/land url=/no", "/land\tx"]),
      pick.call([quote, quote, quote, "", "#{quote}tail"])
    ].join
  end
  tag = lambda do |text|
    text = text.gsub("&", "&amp;").gsub("\"", "&quot;")
    pick.call([
      "<meta http-equiv=\"refresh\" content=\"TEXT\">", "<META HTTP-EQUIV=Refresh CONTENT=\"TEXT\">", "<meta content=\"TEXT\" http-equiv='refresh'/>",
      "<meta\nhttp-equiv\n=\n\"REFRESH\"\ncontent\n=\n\"TEXT\">", "<meta http-equiv=\"refre&#115;h\" content=\"TEXT\">", "<meta name=x http-equiv=refresh content=\"TEXT\" content='0;url=/no'>"
    ]).sub("TEXT") { text }
  end
  around = %w[p title svg object select button ruby dialog form template video xmp iframe noscript frameset style textarea a b li h2 label]
  page = lambda do |text|
    meta = tag.call(text)
    name = pick.call(around)
    pick.call([
      "<!doctype html><title>t</title>#{meta}#{Ways::INERT}", "#{meta}#{Ways::INERT}", "<!--x-->#{meta}#{Ways::INERT}", "<table><tr>#{meta}<td>x</table>#{Ways::INERT}",
      "<base href='http://b.example/d/'>#{meta}#{Ways::INERT}", "#{meta}#{meta.sub("land", "second")}#{Ways::INERT}", "</body></html>#{meta}#{Ways::INERT}",
      *["<#{name}>#{meta}</#{name}>#{Ways::INERT}"] * 5
    ])
  end
  pages = (0...140).to_h do |number|
    text = content.call
    header = random.rand(6).zero? && !text.match?(/[\r\n]/)
    answer = header ? RawServer.page(Ways::INERT, Refresh: text) : RawServer.page(page.call(text).b, "Content-Type": "text/html; charset=utf-8")
    ["http://a.example/f/#{number}?utm_source=x", answer]
  end

  before(:all) do
    @server = RawServer.new { |request| pages.find { |address, _| request.include?(" #{address[%r{/f/.*}]} ") }&.last || RawServer.page }
    judge = PlainChromium.new(@server.port, program: Orvant::Browser::Sealed.program)
    @judged = judge.follow(pages.keys, seconds: 4)
    @read = follow(follower({"*.example" => "127.0.0.1:#{@server.port}"}, seconds: 6), *pages.keys).to_h { |trail| [trail.address, trail] }
    differing = pages.keys.reject { |address| @read.fetch(address).final_address == @judged.fetch(address).final }
    @judged.merge!(judge.follow(differing, seconds: 13, tabs: 2))
    judge.quit
  end

  after(:all) { @server.stop }

  it "leaves few to the browser" do
    expect(@read.count { |_, trail| trail.unseen.any? }).to be < pages.size / 4
  end

  # A page that loads itself again and again may be between two loads when it is asked for its address.
  def end_of(seen) = seen.final.empty? ? seen.addresses.last : seen.final

  pages.each do |address, answer|
    it "ends for certain where Chromium ends on #{answer.scrub[/(?<=Refresh: ).*|(?<=\r\n\r\n).*/m].inspect[0, 150]}" do
      trail = @read.fetch(address)
      skip "Left to the browser" if trail.unseen.any?
      expect(trail.final_address).to eq(end_of(@judged.fetch(address)))
    end
  end
end
