# frozen_string_literal: true

# Takes the pictures in docs/screenshots from a running demo that has been swept: `ruby demo/screenshots.rb [NAME…]`.
ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "ferrum"
require "json"
require "net/http"

BASE = ENV.fetch("ORVANT_URL", "http://127.0.0.1:4600")
FOLDER = ENV.fetch("PICTURES", File.expand_path("../docs/screenshots", __dir__))
ASK = ->(path) { JSON.parse(Net::HTTP.get(URI("#{BASE}/api/workspaces/skerry-line#{path}"))) }
LINK = ->(query) { ASK.call("/links?limit=1&#{query}").dig("links", 0, "id") }
FIX = ->(code) { ASK.call("/fixes")["fixes"].find { |fix| fix["codes"].include?(code) }&.fetch("id") }
FIXES = -> { ASK.call("/traffic")["causes"].flat_map { |cause| cause["fixes"] }.uniq.join(",") }

CLICK = {
  "network" => "Brightbuoy", "account_pattern" => "http://go.brightbuoy.example/c?no=[*click*]&page=[*page.enc*]", "account_tail" => "utm_source=brightbuoy&utm_campaign=[*own.name*]&utm_content=[*site*][*phone:&screen=small*]",
  "campaign_own" => "name=winter", "ad_landing" => "http://www.skerryline.example/day-pass"
}.freeze
# What a person does on a view before its picture is taken.
ACTS = {
  "import" => lambda { |page|
    page.at_xpath("//label[text()='Network']/..//input").focus.type("Brightbuoy", :Escape)
    page.at_css("input[type=file]").select_file(File.expand_path("data/brightbuoy.csv", __dir__))
  },
  "sightings" => ->(page) { page.evaluate("[...document.querySelectorAll('h3')].find((title) => title.textContent.startsWith('Found in')).scrollIntoView()") }
}.freeze

VIEWS = {
  "convention" => -> { "convention" },
  "links" => -> { "links?sort=weight&direction=down&chosen=#{LINK.call("code=param/case&kind=message")}" },
  "trail" => -> { "links?code=trail/dropped&chosen=#{LINK.call("code=trail/dropped&kind=ad")}" },
  "import" => -> { "links/import?from=ads" },
  "source-changes" => -> { "links/import?from=network&import=#{ASK.call("/imports")["imports"].find { |one| one["kind"] == "network" && one["changes"].any? }["id"]}" },
  "click-address" => -> { "links/click-address?#{URI.encode_www_form(CLICK)}" },
  "sightings" => -> { "links?chosen=#{LINK.call("q=winter-lights&kind=ad")}" },
  "sweeps" => -> { "sweeps" },
  "tags" => -> { "tags?chosen=www.skerryline.example/gift-pass" },
  "rehearsals" => -> { "rehearsals?chosen=group-enquiry-clubs" },
  "traffic" => -> { "traffic?fixes=#{FIXES.call}" },
  "traffic-rows" => -> { "traffic?cause=letter+case" },
  "fixes" => -> { "fixes?chosen=#{FIX.call("trail/dropped")}" },
  "fixes-dark" => -> { "fixes?chosen=#{FIX.call("param/case")}" }
}.freeze

browser = Ferrum::Browser.new(headless: "new", window_size: [1280, 800], timeout: 20,
  browser_options: Process.uid.zero? ? {"no-sandbox" => nil} : {})
VIEWS.slice(*(ARGV.empty? ? VIEWS.keys : ARGV)).each do |name, view|
  page = browser.create_page
  page.command("Emulation.setEmulatedMedia",
    features: [{name: "prefers-color-scheme", value: name.end_with?("dark") ? "dark" : "light"}])
  page.command("Emulation.setDeviceMetricsOverride", width: 1280, height: 800, deviceScaleFactor: 1, mobile: false)
  page.go_to("#{BASE}/w/skerry-line/#{view.call}")
  sleep 1.5 # Until data, fonts and moving bars have come to rest.
  ACTS[name]&.call(page)
  sleep 1 if ACTS.key?(name)
  page.screenshot(path: File.join(FOLDER, "#{name}.png"), format: "png")
  page.close
end
browser.quit
