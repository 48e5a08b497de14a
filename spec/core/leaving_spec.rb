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

  before(:all) do
    @server = RawServer.new do |request|
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

  it "forgets in a tab that is used again what a page has stored" do
    tab = Orvant::Browser::UsedTab.new(@browser, Orvant::Net::Visitor::DESKTOP)
    expect(Array.new(3) { tab.follow("http://a.example/again").final_address }.uniq).to eq(["http://a.example/again"])
  ensure
    tab.close
  end
end
