# frozen_string_literal: true

require_relative "../spec_helper"

# What answers 200 and shows nobody what was promised, and what only looks alike.
RSpec.describe Orvant::Trail::NoPage do
  chrome = "<nav><a href=/>Larder</a> <a href=/courses>Courses</a> <a href=/shop>Shop</a> <a href=/gift>Gift vouchers</a></nav>"

  def trail(body, address: "http://www.larder.example/loaf", headers: {}, **facts)
    Orvant::Trail.new(
      address: address,
      outcome: "landed",
      final_address: address,
      status: 200,
      engine: "http",
      visitor: "desktop",
      hops: [Orvant::Trail::Hop.new(address: address, status: 200, ms: 1, params: [])],
      attempts: [],
      body: body,
      headers: {"content-type" => "text/html; charset=utf-8"}.merge(headers),
      **facts
    )
  end

  # What the host says at its home page and to an address that cannot exist.
  def probe(home: "<title>Larder</title><h1>Larder</h1><p>Courses in bread and cheese by the harbour.", nowhere: nil)
    answers = [home, nowhere].map { |body| body && trail(body, address: "http://www.larder.example/x") }
    Class.new do
      define_method(:call) { |_| answers.last }
      define_method(:home) { |_| answers.first }
    end.new
  end

  def judged(body, **facts)
    given = facts.delete(:probe) || probe(nowhere: trail("").body)
    Orvant::Trail::Landing.judge(trail(body, **facts), probe: given)
  end

  def said(...) = judged(...).then { |one| one.landed? ? one.landing.dig("no_page", "kind") : one.outcome }

  # body => what it is
  {
    "<title>Link expired</title><p>This link has expired." => "expired",
    "<title>s.larder.example</title><h1>Unknown short link</h1>" => "expired",
    "<p>No such link." => "expired",
    "<title>Oops</title><h1>This link is no longer active</h1><p>Please contact the owner of the link." => "expired",
    "<title>Access denied</title><h1>Access Denied</h1><p>You don't have permission to access this server. Reference #18.2f0a" => "refused",
    "<h1>403 Forbidden</h1><hr>" => "refused",
    "<title>Just a moment</title><h1>Verify you are human</h1>" => "refused",
    "<title>Zugriff verweigert</title><h1>Zugriff verweigert</h1>" => "refused",
    "<title>Maintenance</title><h1>We'll be back soon</h1><p>Our site is down for maintenance. Please try again later." => "maintenance",
    "<h1>Site under maintenance</h1>" => "maintenance",
    "<title>Back soon</title><h1>We are doing maintenance</h1><p>Please come back later tonight." => "maintenance",
    "<h1>Back in a moment</h1>" => "maintenance",
    "<title>Wartungsarbeiten</title><h1>Wartungsarbeiten</h1>" => "maintenance",
    "<title>Larder</title><h1>Not available in your country</h1><p>Sorry." => "region",
    "<h1>Sorry, this page is not available here</h1>" => "region",
    "<title>Page not found</title><h1>Page not found</h1><p>Sorry, the page you are looking for has moved." => "broken",
    "<title>404</title><h1>404</h1>" => "broken",
    "<title>Larder</title><h1>Seite nicht gefunden</h1><p>Leider wurde die Seite nicht gefunden." => "broken",
    "" => "empty",
    "<html><head><title>Larder</title></head><body></body></html>" => "empty"
  }.each do |body, kind|
    it("takes #{body[0, 60].inspect} for #{kind}") { expect(said(body)).to eq(kind) }
  end

  it "tells a site's own frame from what the page says itself" do
    nowhere = "<title>Larder</title>#{chrome}<h1>Page not found</h1>"
    given = probe(nowhere: nowhere)
    expect(said("<title>Larder</title>#{chrome}<h1>This course is closed for scheduled maintenance</h1>", probe: given)).to eq("maintenance")
    expect(said(nowhere, probe: given)).to eq("broken")
    expect(said("<title>Larder</title>#{chrome}<h1>Error 404</h1><p>Caps, shirts and rain coats from the street of bakers.", probe: given)).to be_nil
  end

  # Pages of sound sites.
  [
    "<title>Error 404</title><h1>Error 404</h1><p>Caps, shirts and rain coats, made in the street of bakers.",
    "<title>Error 404 – the shop</title><h1>Autumn coats</h1><p>From 49.00 EUR",
    "<title>Teas that do not exist in shops</title><h1>A tea that does not exist in shops</h1><p>Smoked over pine, from a garden in the hills.",
    "<title>Not found in stores</title><h1>Not found in any other store: the oat loaf</h1><p>Baked each morning with malt and rye flour.",
    "<title>Lost and found</title><h1>Lost and found office</h1><p>Umbrellas, gloves and one left boot wait at the quay.",
    "<title>The page not found</title><h1>The Page Not Found, a novel</h1><p>By Ada Quill. A librarian looks for the last chapter of an atlas.",
    "<title>Access denied: an escape room</title><h1>Access Denied</h1><p>Sixty minutes, six doors, one vault. Book an evening with friends.",
    "<title>Forbidden fruit</title><h1>Forbidden fruit cider</h1><p>Pressed from wild apples in October.",
    "<title>Maintenance plans</title><h1>Maintenance</h1><p>Boilers, heat pumps and stoves, serviced every spring by our fitters.",
    "<title>Maintenance</title><h1>Maintenance courses for bicycles</h1><p>Brakes, gears and wheels in four evenings.",
    "<title>Back soon</title><h1>The swallows will be back soon</h1><p>Where to watch them return along the estuary in April.",
    "<title>Not available in shops</title><h1>Not available in shops here or anywhere</h1><p>Our cheese ripens in a cellar and leaves it by ferry.",
    "<title>Temporarily closed roads</title><h1>Roads temporarily closed this week</h1><p>Quay street until Friday, Mill lane on Sunday.",
    "<title>Expired</title><h1>Your passport has expired?</h1><p>Renew it at the town hall: photographs, forms, fees and opening times.",
    "<title>This offer has expired my patience</title><h1>A comedy in two acts</h1><p>Every Thursday at the harbour theatre, doors open at seven.",
    "<title>Invalid code</title><h1>Have an invalid code?</h1><form action=/try><input name=voucher><button>Try again</button></form>",
    "<title>Are you a robot?</title><h1>Are you a robot? The exhibition</h1><p>Automata, dolls and looms from three centuries.",
    "<title>Unusual traffic</title><h1>Unusual traffic: carriages and trams</h1><p>A walk through the tram depot with old conductors.",
    "<title>503</title><h1>Peugeot 503 owners</h1><p>Spare parts, meetings and a calendar of rallies.",
    "<title>404 Brewing</title><h1>404 Brewing</h1><p>Stout, pale ale and a sour with gooseberries.",
    "<title>Under construction</title><h1>Under construction: our new ferry</h1><p>Steel was cut in May; see the hull grow week by week.",
    "<title>Welcome</title><h1>Welcome</h1>",
    "<title>Larder</title><p>Hi",
    "<title>Thanks</title><h1>Thank you</h1><p>We have received your message.",
    "<title>Poster</title><img src=/poster.jpg alt=''>",
    "<title>Film</title><video src=/film.mp4></video>",
    "<title>Map</title><canvas id=map></canvas>",
    "<title>Log in</title><form action=/in method=post><input name=user><input name=password type=password></form>",
    "<title>Choose</title><button>English</button><button>Deutsch</button>",
    "<title>Answers</title><h1>What does error 404 mean?</h1><p>Servers say it when an address leads to nothing. How to write kinder ones.",
    "<title>Blocked drains</title><h1>You are blocked? Drains cleared</h1><p>Plumbers on call day and night, from 79.00 EUR",
    "<title>No longer available on paper</title><h1>The timetable is no longer available on paper</h1><p>Read it here: Monday to Friday 7:10, 9:10, 12:40, 17:25.",
    "<title>Does not exist</title><h1>Bad weather does not exist</h1><p>Oilskins, boots and hats for rain.",
    "<title>Removed</title><h1>Stains removed from wool and silk</h1><p>Bring coats and curtains to our counter.",
    "<title>Invalid</title><h1>Invalid carriage museum</h1><p>Three-wheelers and bath chairs in the old mill.",
    "<title>Dead link</title><h1>Dead Link, a band from the docks</h1><p>Concerts in November, records and shirts.",
    "<title>Service unavailable</title><h1>Service unavailable? Call us</h1><p>Radios, televisions and record players repaired while you wait.",
    "<title>Offline</title><h1>Offline for a week</h1><p>A cabin without signal, with stove, boat and library.",
    "<title>Under maintenance</title><h1>Lighthouses under maintenance</h1><p>A keeper shows lenses, lamps and the winding gear.",
    "<title>Not found</title><h1>Not found yet: the wreck of the Heron</h1><p>Divers search the bay each summer; follow their log.",
    "<title>Sorry</title><h1>Sorry!</h1><p>The board game for four players, ages six and up.",
    "<title>Page</title><h1>This page is about pages</h1><p>Vellum, rag paper and parchment, bound by hand.",
    "<title>Gone</title><h1>Gone fishing</h1><p>Charters for mackerel and bass, rods and tea on board.",
    "<title>Wrong address</title><h1>Wrong address? Move with us</h1><p>Vans, boxes and two strong movers for an afternoon.",
    "<title>Try again</title><h1>Try again later: a podcast on failure</h1><p>Founders, bakers and sailors on what went wrong.",
    "<title>Refused</title><h1>Refused, recycled, reborn</h1><p>Chairs made of driftwood and sails.",
    "<title>Redirecting</title><h1>Redirecting rivers</h1><p>An exhibition on canals, locks and mills.",
    "<title>Error</title><h1>Trial and error</h1><p>Sourdough for beginners: flour, water, salt and time.",
    "<title>Missing</title><h1>Missing since Tuesday: a grey cat</h1><p>Answers to Pilot, white paws, last seen by the chandlery.",
    "<title>Expired film</title><h1>Photographs on expired film</h1><p>Grain, fog and colours of 1974.",
    "<title>Site</title><h1>Building site not found on maps</h1><p>Guided visits to the tunnel each Saturday.",
    "<title>Denied</title><h1>Access was denied for years: the fort opens</h1><p>Casemates, powder rooms and a view of the strait.",
    "<title>Larder</title><h1>403 recipes</h1><p>Soups, stews and puddings from the islands.",
    "<title>Coming soon</title><h1>Coming soon to the harbour cinema</h1><p>Whales, storms and a silent film with piano.",
    "<title>Human</title><h1>Verify you are human, a play</h1><p>Premiere on 3 December, tickets at the box office.",
    "<title>Country</title><h1>Not available in your country house?</h1><p>Stoves, beams and slates from demolitions.",
    "<title>Link</title><h1>The missing link</h1><p>Sausages joined by hand, smoked over alder.",
    "<title>Closed</title><h1>Closed for maintenance of joy</h1><p>Spa, sauna and tea room; evenings for two.",
    "<title>Zugriff</title><h1>Zugriff verweigert, ein Krimi</h1><p>Kommissarin Bruhn ermittelt zwischen Deich und Hafen.",
    "<title>410</title><h1>Route 410</h1><p>Buses from the pier to the moor, every half hour in summer."
  ].each do |body|
    it("finds nothing on #{body[/<title>[^<]*/].to_s.delete_prefix("<title>").inspect}, #{body[/<h1>[^<]*/].to_s.delete_prefix("<h1>").inspect}") do
      expect(said(body)).to be_nil
    end
  end

  it "lets a small site say the same everywhere, and a shell be drawn by script" do
    same = "<title>Bread week</title><h1>Bread week</h1><p>Ten bakers, one square, all ovens lit."
    expect(said(same, probe: probe(home: same, nowhere: same))).to be_nil
    shell = "<title>Larder</title><div id=app></div><script src=/app.js></script>"
    expect(said(shell, unseen: ["http://www.larder.example/loaf"], probe: probe(home: shell, nowhere: shell))).to be_nil
  end

  it "knows a file, an app, what was held and a script that failed for what they are" do
    zip = {headers: {"content-type" => "application/zip"}}
    expect(said("PK", **zip)).to eq("download")
    expect(said("PK", address: "http://www.larder.example/menu.zip", **zip)).to be_nil
    expect(said("%PDF", headers: {"content-type" => "application/pdf"})).to be_nil
    blank = "<html><head><title>x</title></head><body></body></html>"
    expect(said(blank, attempts: ["larder://open"])).to eq("app")
    expect(said(blank, attempts: ["mailto:a@larder.example"])).to eq("empty")
    look = ->(**facts) { {engine: "browser", look: Orvant::Trail::Look.new(by: "browser", **facts)} }
    expect(said(blank, **look.call(undecided: ["POST http://x.example/"]))).to eq("held")
    expect(said(blank, **look.call(failed: "ReferenceError: app is not defined"))).to eq("script")
    expect(judged("<style>body{background:url(a.png)}</style>", **look.call).landing["no_page"]).to eq("kind" => "empty", "sure" => false)
  end
end
