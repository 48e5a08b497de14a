# frozen_string_literal: true

# Takes the pictures in docs/screenshots from a running demo that has been swept: `ruby demo/screenshots.rb
# [NAME…]`.
ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "ferrum"
require "json"
require "net/http"
require "timeout"

BASE = ENV.fetch("ORVANT_URL", "http://127.0.0.1:4600")
FOLDER = ENV.fetch("PICTURES", File.expand_path("../docs/screenshots", __dir__))
ASK = ->(path) { JSON.parse(Net::HTTP.get(URI("#{BASE}/api/workspaces/skerry-line#{path}"))) }
LINK = ->(query) { ASK.call("/links?limit=1&#{query}").dig("links", 0, "id") }
FIX = ->(code) { ASK.call("/fixes")["fixes"].find { |fix| fix["codes"].include?(code) }&.fetch("id") }
FIXES = -> { ASK.call("/traffic")["causes"].flat_map { |cause| cause["fixes"] }.uniq.join(",") }

# What a person does on a view before its picture is taken.
SEND = ->(path, body) {
  JSON.parse(Net::HTTP.post(
    URI("#{BASE}/api/workspaces/skerry-line#{path}"),
    JSON.generate(body),
    "content-type" => "application/json"
  ).body)
}
# People and a bot pass the signposts.
PASSES = lambda {
  server = URI(ASK.call("/signposts")["server"])
  agents = [
    "Mozilla/5.0 (iPhone; CPU iPhone OS 17_0 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/17.0 Mobile/15E148 Safari/604.1",
    "Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101 Firefox/128.0",
    "ExampleBot/1.0 (+http://bot.example/)"
  ]
  Net::HTTP.start(server.host, server.port) do |http|
    40.times do |number|
      http.get(
        (number % 3 == 0) ? "/deck" : "/lights",
        "Host" => "skl.example",
        "User-Agent" => agents[(number % 9 == 0) ? 2 : number % 2],
        "Referer" => (number % 5 == 0) ? "http://www.isleguide.example/lights" : ""
      )
    end
  end
}
SHEET = -> { ASK.call("/sheets")["sheets"].find { |one| one["name"] == "December lights" }["id"] }

# Uses something on the page that is being recorded, as somebody without a pointer does.
RECORD = lambda { |page, said, value|
  page.at_css("input[placeholder^='Or choose']").focus.type(said)
  sleep 0.5
  page.at_css("[role=option]").click
  sleep 0.5
  page.at_xpath("//label[text()='#{said}']/..//input").focus.type([:ctrl, "a"], value) if value
  page.at_xpath(value ? "//button[contains(., 'Fill it in')]" : "//button[contains(., 'Click it')]").click
  sleep 6
}

ACTS = {
  "convention-edit" => lambda { |page|
    field = page.at_xpath("//label[contains(., 'Longest')]/..//input")
    field.focus.type([:ctrl, "a"], "12")
    sleep 1
  },
  "learn" => ->(page) { page.css("input[type=checkbox]").first(3).each(&:click) },
  "build" => ->(page) { page.mouse.click(x: 480, y: 186) && sleep(1) },
  "new-workspace" => lambda { |page|
    page.at_css("summary").click
    page.at_css("textarea").focus.type("*.example 127.0.0.1:8099")
    page.at_css("form button[type=submit]").click
    sleep 1.5
  },
  "recording" => lambda { |page|
    page.at_css("form button[type=submit]").click
    sleep 8
    {"Name" => "Ann Rowan", "Pay" => nil}.each { |said, value| RECORD.call(page, said, value) }
    sleep 2
  }
}.freeze

VIEWS = {
  "new-workspace" => -> { "../../new?site=www.skerryline.example" },
  "traffic-table" => -> { "traffic/table?down=campaign&across=channel" },
  "claims" => -> { "traffic/claims" },
  "convention" => -> { "convention" },
  "convention-edit" => -> { "convention/edit?part=campaign" },
  "learn" => -> { "convention/learn" },
  "build" => -> { "links/build/#{SHEET.call}" },
  "signposts" => -> { PASSES.call.then { "links/signposts?chosen=#{ASK.call("/signposts")["signposts"].find { |one| one["path"] == "/lights" }["id"]}" } },
  "links" => -> { "links?sort=weight&direction=down&chosen=#{LINK.call("code=param/case&kind=message")}" },
  "trail" => -> { "links?code=trail/dropped&chosen=#{LINK.call("code=trail/dropped&kind=ad")}" },
  "recording" => -> { "rehearsals/record?address=#{URI.encode_www_form_component("http://shop.skerryline.example/tickets/day?utm_source=island-letter&utm_medium=email&utm_campaign=tickets-winter")}" },
  "sweeps" => -> { "sweeps" },
  "tags" => -> { "tags?chosen=www.skerryline.example/gift-pass" },
  "senders" => -> { "tags/senders?chosen=#{ASK.call("/senders").dig("senders", 0, "id")}" },
  "rehearsals" => -> { "rehearsals?chosen=group-enquiry-clubs" },
  "traffic" => -> { "traffic?fixes=#{FIXES.call}" },
  "fixes" => -> { "fixes?chosen=#{FIX.call("trail/dropped")}" },
  "steps-dark" => -> { "traffic/steps" }
}.freeze

browser = Ferrum::Browser.new(headless: "new", window_size: [1280, 800], timeout: 20,
  browser_options: Process.uid.zero? ? {"no-sandbox" => nil} : {})
VIEWS.slice(*(ARGV.empty? ? VIEWS.keys : ARGV)).each do |name, view|
  page = browser.create_page
  page.command("Emulation.setEmulatedMedia",
    features: [{name: "prefers-color-scheme", value: name.end_with?("dark") ? "dark" : "light"}])
  page.command(
    "Emulation.setDeviceMetricsOverride",
    width: 1280,
    height: 800,
    deviceScaleFactor: 1,
    mobile: false
  )
  page.go_to("#{BASE}/w/skerry-line/#{view.call}")
  Timeout.timeout(60) { sleep 0.2 while page.body.include?("Loading …") }
  sleep 1.5 # Until data, fonts and moving bars have come to rest.
  ACTS[name]&.call(page)
  sleep 1 if ACTS.key?(name)
  page.screenshot(path: File.join(FOLDER, "#{name}.png"), format: "png")
  page.close
end
browser.quit
