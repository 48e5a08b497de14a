# frozen_string_literal: true

# What a page does when it is left, and what it leaves behind.
RSpec.describe Orvant::Browser::Visit do
  ways = {
    "a beacon on pagehide" => "addEventListener('pagehide', () => navigator.sendBeacon('http://eye.test/leave', 'x'))",
    "a beacon when it is hidden" => "document.addEventListener('visibilitychange', () => navigator.sendBeacon('http://eye.test/leave', 'x'))",
    "a request that outlives it" => "onpagehide = () => fetch('http://eye.test/leave', {keepalive: true, method: 'POST', body: 'x'})",
    "one that has to be asked for" => "addEventListener('unload', () => fetch('http://eye.test/leave', {keepalive: true, method: 'POST', headers: {'content-type': 'application/json'}, body: '{}'}))",
    "nothing" => "window.seen = 1"
  }
  # Stays at first, and moves on whoever has been here before.
  again = "if (localStorage.been || sessionStorage.been || document.cookie || name) location = '/moved'; else { localStorage.been = sessionStorage.been = name = 1; document.cookie = 'been=1' }"

  # Moves on a while after its scripts, which the browser knows by then, have come.
  moving = "#{Array.new(3) { |number| "<script src=/file#{number}.js></script>" }.join}<script>setTimeout(() => location.replace('/moved'), 400)</script>"
  pages = {
    "/go" => RawServer.page(status: "302 Found", Location: "/moving"),
    "/moving" => RawServer.page(moving),
    "/file" => RawServer.page("window.files = 1", "Content-Type": "text/javascript", "Cache-Control": "max-age=60"),
    "/late" => RawServer.page("<script>setTimeout(() => location.replace('/moved'), 15000)</script>")
  }

  before(:all) do
    @server = RawServer.new do |request|
      known = pages.find { |start, _| request.include?(" #{start}") }
      next known.last if known

      RawServer.page("<h1>Here</h1><script>#{request.include?("/again") ? again : ways.values[request[/GET \S*\/(\d) /, 1].to_i]}</script>")
    end
    guard = Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new("*.example" => "127.0.0.1:#{@server.port}", "*.test" => "127.0.0.1:#{@server.port}"))
    @browser = Orvant::Browser::Sealed.new(guard: guard, seal: Orvant::Browser::Seal.new(own: Orvant::Hosts.new(["*.example"])))
  end

  after(:all) do
    @browser.quit
    @server.stop
  end

  ways.each_key.with_index do |name, number|
    it "hears #{name} on leaving, once its clock was set forward" do
      held = @browser.visit do |visit|
        visit.set_out("http://a.example/#{number}")
        visit.until_still
        visit.leave
        visit.held.map { |one| one.address[/\/leave\z/] }
      end
      expect(held.uniq).to eq((name == "nothing") ? [] : ["/leave"])
    end
  end

  def used(*paths)
    tab = Orvant::Browser::UsedTab.new(@browser, Orvant::Net::Visitor::DESKTOP)
    paths.map { |path| tab.follow("http://a.example#{path}").final_address.delete_prefix("http://a.example") }
  ensure
    tab.close
  end

  it "forgets in a tab that is used again what a page has stored" do
    expect(used(*["/again"] * 3).uniq).to eq(["/again"])
  end

  it "follows in a tab whose clock has run ahead before, as often as it is used" do
    expect(Array.new(2) { Thread.new { used(*["/go"] * 12) } }.flat_map(&:value).tally).to eq("/moved" => 24)
  end

  it "waits for what is done to a page after it was still, whose clock ran from its beginning" do
    shown = @browser.visit do |visit|
      ["/4", "/3"].each { |path| visit.set_out("http://a.example#{path}") && visit.until_still }
      visit.ask("() => { setTimeout(() => location.replace('/moved'), 3000) }")
      visit.until_still
      visit.current_address
    end
    expect(shown).to eq("http://a.example/moved")
  end

  it "watches a page for ten seconds of its own there, too" do
    expect(used("/0", "/late")).to eq(["/0", "/late"])
  end
end
