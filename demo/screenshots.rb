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

VIEWS = {
  "convention" => -> { "convention" },
  "links" => -> { "links?sort=weight&direction=down&chosen=#{LINK.call("code=param/case&kind=message")}" },
  "trail" => -> { "links?code=trail/dropped&chosen=#{LINK.call("code=trail/dropped&kind=ad")}" },
  "import" => -> { "links/import" },
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
  page.screenshot(path: File.join(FOLDER, "#{name}.png"), format: "png")
  page.close
end
browser.quit
