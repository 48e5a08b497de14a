# frozen_string_literal: true

require_relative "../screen_helper"

RSpec.describe "The screens", :screens, :swept do
  it "read the convention out as a colleague would" do
    open_screen("convention")
    expect(page).to have_css("h2", text: "Skerry Line naming rules").and have_text(
            "Every link carries it. It stands in utm_source. It is written in lower case, words are parted by “-”, never by a blank. One of 9 permitted values and no other."
          )
    expect(page).to have_text("billed, never requested").and have_text("click.lanternfind.example")
  end

  it "walk a list by keyboard, the evidence following, every state in the address bar" do
    open_screen("links?sort=weight&direction=down")
    expect(rows.size).to be > 20
    press(:Down)
    first = evidence.text
    press(:Down)
    expect(evidence).to have_no_text(first, exact: true)
    expect(list.find("[aria-selected=true]")).to have_text(rows[1].text)
    link = current_url

    press(:Escape)
    expect(page).to have_no_css("[aria-label=Evidence]")
    visit(link)
    expect(evidence).to have_text("Found in 1 place")
    press("3")
    expect(page).to have_current_path(%r{/tags})
  end

  it "filter and sort on the server, from the keyboard too" do
    open_screen("links")
    expect(page).to have_css("[role=row][aria-selected]", minimum: 20)
    press("/")
    press("great-skerry")
    expect(page).to have_text("4 links").and have_current_path(/q=great-skerry/)
    fill_in("Search addresses and places", with: "")
    find("[role=columnheader][data-column=address] button").click
    expect(page).to have_css("[role=columnheader][aria-sort=ascending]", text: "Address")
    expect(list).to have_css("[aria-selected]:first-child", text: "10.0.0.12")
    find("[role=columnheader][data-column=address] button").click
    expect(list).to have_css("[aria-selected]:first-child", text: "tickets.skerryline.example")
  end

  it "say what to do where a filter leaves nothing" do
    open_screen("links?q=nothing-like-this")
    expect(page).to have_text("No link fits these filters.")
    click_button("Show all links")
    expect(page).to have_text("134 links")
  end

  it "sort the short lists too, and say so in the address" do
    open_screen("fixes")
    find("[role=columnheader][data-column=revenue] button").click
    expect(page).to have_current_path(/sort=revenue&direction=down/)
    expect(list).to have_css("[aria-selected]:first-child", text: "pay.coinquay.example")
    find("[role=columnheader][data-column=revenue] button").click
    expect(list).to have_no_css("[aria-selected]:first-child", text: "pay.coinquay.example")
    open_screen("tags?sort=weight&direction=down")
    expect(list).to have_css("[aria-selected]:first-child", text: "shop.skerryline.example/app")
  end

  it "let a finding stand until a day, count it apart, and take that back" do
    open_screen("links?code=param/characters")
    choose_row("crew_notes")
    evidence.click_button("Let it stand until …")
    evidence.fill_in("Why it may stand", with: "Printed already")
    evidence.fill_in("Until", with: Date.current + 30)
    evidence.click_button("Let it stand")
    expect(page).to have_button("1 waived")
    click_button("1 waived")
    choose_row("crew_notes")
    expect(evidence).to have_text("May stand until").and have_text("Printed already").and have_text(
                  "Rules for this link"
                )
    evidence.click_button("Take that back")
    expect(page).to have_no_button("1 waived")
  end

  it "tell of each link the heaviest thing that is wrong, and keep the sides of the inventory apart from its deeds" do
    open_screen("links?sort=weight&direction=down")
    expect(rows.first.find("[data-column=wrong]")[:title]).to match(/\A\S.{20,}[.:]/)
    sides = find("nav[aria-label=Links]")
    expect(sides.all("a").map { |side| side.text[/\A\w+/] }).to eq(%w[List Collect Build Signposts Spellings])
    {"Collect" => "Collect links", "Build" => "Build sheets", "Signposts" => "Put up a signpost"}.each do |side, shown|
      find("nav[aria-label=Links]").click_link(side)
      expect(page).to have_text(shown).and have_css("nav[aria-label=Links] a[aria-current=page]", text: side)
    end
  end

  it "sum fixes by whose links they are, narrow to one of them, and find them by text" do
    open_screen("fixes?by=owner")
    sums = all("table button", minimum: 3).map(&:text)
    expect(sums).to include("Newsletter desk", "nobody named")
    click_button("Newsletter desk")
    expect(page).to have_current_path(/owner=Newsletter\+desk/)
    # Rows of before may still stand there, and go.
    expect(list).to have_no_css("[role=row][aria-selected] [data-column=owner]", text: /\A(?!Newsletter desk\z)/)
    expect(rows).not_to be_empty
    fill_in("Search fixes", with: "utm_medium")
    expect(page).to have_current_path(/q=utm_medium/)
    expect(list).to have_no_css("[role=row][aria-selected]", text: /\A(?!.*utm_medium)/m)
    expect(rows).not_to be_empty
  end

  it "let a new role be named letter by letter" do
    open_screen("convention/edit")
    click_button("Add a role …")
    field = find_field("Name")
    field.send_keys([:control, "a"], "season")
    expect(page.evaluate_script("document.activeElement.value")).to eq("season")
    field.send_keys(:enter)
    expect(page).to have_current_path(/part=season/).and have_css("nav[aria-label='Parts of the convention'] [aria-current]", text: "season")
    page.execute_script("localStorage.clear()")
  end

  it "show what is spelled in several ways over all links, and lead to the links" do
    open_screen("links")
    click_link("Spellings 6")
    expect(page).to have_css("article", text: "utm_campaign is spelled two ways").and have_css(
      "td",
      text: "autumndaypass"
    )
    expect(find("article", text: "two-landings")).to have_text("www.skerryline.example/crossing-times")
    find("article", text: "split-spelling").click_link("1 link to change")
    expect(page).to have_text("1 link").and have_button("Of one finding only ×")
  end

  it "take a file back that was imported by mistake" do
    open_screen("links/import")
    path = File.join(SPEC_VAR, "mistake.csv")
    File.write(path, "address\nhttp://www.skerryline.example/mistake\n")
    attach_file(path) { click_button("Choose a file") }
    click_button("Keep 1 new placement")
    expect(stop("Links")).to have_text("of 135 wrong")
    find("tr", text: "mistake.csv").click_button("Take back")
    expect(stop("Links")).to have_text("of 134 wrong").and have_no_css("tr", text: "mistake.csv")
  end

  it "show a page's tags, heard and missing" do
    open_screen("tags")
    choose_row("gift-pass")
    expect(list.find("[aria-selected=true]")).to have_text("missing")
    expect(evidence).to have_text("Gullwatch is not on this page").and have_text("answered here, sent to nobody")
  end

  it "tell who was sent what was held, and take a person's word for it back" do
    open_screen("tags")
    click_link("2 senders not known")
    choose_row("www.isleguide.example")
    expect(evidence).to have_text("2 times as form").and have_text("Sent from 1 page")
    choose_row("eye.tidegauge.example")
    expect(evidence).to have_text("6 times as").and have_text("http://eye.tidegauge.example/leave").and have_text("Sent from 3 pages")
    evidence.click_button("Pages need it: let through")
    expect(find("[aria-selected=true]", text: "tidegauge")).to have_text("let through")
    expect(page).to have_text("1 of 2 senders not known")
    evidence.click_button("Take that back")
    expect(page).to have_text("2 of 2 senders not known")
    evidence.click_link("www.skerryline.example/museum-shop")
    expect(evidence).to have_text("2 requests held, sender not known").and have_css("h2", text: "Museum shop")
  end

  it "draw a rehearsal as a score: what sounded twice stands twice, what is missing stays hollow" do
    open_screen("rehearsals")
    choose_row("Club enquiry")
    expect(evidence).to have_css("[data-state=heard]", text: "lead", count: 1).and have_css(
      "[data-state=again]",
      text: /lead\s*again/,
      count: 1
    )
    choose_row("School enquiry")
    expect(evidence).to have_css("[data-state=absent]", text: "lead", count: 1).and have_text("No conversion left.")
    choose_row("booking host")
    expect(evidence).to have_css("[data-changed]", text: "nothing", count: 3)
    evidence.find("button", text: "open", match: :first).click
    expect(evidence.find("img")["src"]).to end_with("/1")
    expect(evidence.find("img").evaluate_script("this.naturalWidth")).to be > 500
  end

  it "lead from every number to its rows, and back" do
    open_screen("traffic")
    find("button[title^='Unassigned:']", match: :first).click
    expect(evidence).to have_text("1,836 sessions")
    press(:Escape)
    expect(page).to have_no_css("[aria-label=Evidence]")
    all("a", text: "its fix").first.click
    expect(evidence).to have_text("1,703 sessions, 64 conversions, €3,232")
    evidence.click_link("as a list of links")
    expect(page).to have_text("2 links")
    click_button("Of one fix only ×")
    expect(page).to have_text("134 links")
  end

  it "turn the table of traffic, open the rows of a cell, and keep all of it in the address bar" do
    open_screen("traffic/table")
    expect(rows.first).to have_text("17,412")
    select("channel across", from: "Across")
    expect(page).to have_current_path(/across=channel/)
    expect(find("[role=row]", text: "seal-season")).to have_text("818").and have_text("596").and have_text("2,261")
    find("[role=row]", text: "seal-season").click
    expect(evidence).to have_text(/2,261 sessions in \d+ rows/)
    turned = find("[aria-label='Traffic by what was chosen']")
    turned.find("[role=row]", text: "seal-season").click_button("818")
    expect(evidence).to have_text(/818 sessions in \d+ rows/)
    evidence.click_button("Only these")
    expect(page).to have_current_path(/campaign=seal-season/).and have_text("1 row; in all 818 sessions")
    click_button("campaign: seal-season ×")
    find_button(text: "channel:").click
    expect(page).to have_text("in all 32,416 sessions")
    select("week", from: "Down")
    expect(rows.first).to have_text("2026-W35")
    turned.find("[role=row]", text: "2026-W47").click
    expect(evidence).to have_text(/4,010 sessions in \d+ rows/)
    press(:Escape)
    fill_in("From", with: "2026-11-16")
    fill_in("To", with: "2026-11-22")
    expect(page).to have_current_path(/from=2026-11-16&to=2026-11-22/).and have_text(/in all 4,010 sessions/)
    select("measures across", from: "Across")
    select("beside the days before", from: "Days beside")
    expect(page).to have_text("beside them 3,579 sessions, 9 Nov 2026 to 15 Nov 2026").and have_css("[role=columnheader]", text: "Change")
    select("beside chosen days", from: "Days beside")
    fill_in("Beside, from", with: "2026-11-02")
    fill_in("Beside, to", with: "2026-11-08")
    expect(page).to have_current_path(/compare=2026-11-02\.\.2026-11-08/).and have_text("2 Nov 2026 to 8 Nov 2026")
    select("beside no other days", from: "Days beside")
    select("“sale” counts", from: "What counts as a conversion")
    expect(page).to have_text("in all 4,010 sessions, 63 conversions").and have_current_path(/event=sale/)
  end

  it "tell by the steps of the settings where the visits of a campaign end, and open their rows" do
    open_screen("traffic/steps")
    expect(find("[role=row]", text: "walks-2026")).to have_text("14 · 100 %").and have_text("ticket chosen")
    find("[role=row]", text: "november-letter").click
    expect(evidence).to have_text(/84 sessions in \d+ rows/)
    select("by source", from: "Visits by")
    expect(page).to have_current_path(/down=source/).and have_css("[role=row]", text: "isleguide")
  end

  it "show what happened meanwhile, who sent visits, what is claimed, and one order with the visits before it" do
    open_screen("traffic/series")
    expect(page).to have_css("svg.recharts-surface").and have_text("Sent: Island letter, November").and have_css("td", text: "4,010")
    open_screen("traffic/series?from=2026-11-16&to=2026-11-22&by=day&compare=before")
    expect(page).to have_text("4,010 sessions in these days").and have_text("3,579 sessions in the days beside, from 9 Nov 2026 to 15 Nov 2026").and have_text("12 % more than there")
    open_screen("traffic/series?from=2026-11-31")
    expect(page).to have_text("“2026-11-31” is no day")
    click_button("Show all traffic")
    expect(page).to have_css("td", text: "4,010")
    click_link("Referrers")
    select("partner", from: "What www.walkers.example is taken for")
    expect(page).to have_select("What www.walkers.example is taken for", selected: "partner")
    click_link("Claims")
    expect(page).to have_text(/Tidepost claims 54 conversions for “autumn-day-pass”/).and have_text(/and 1665 sessions were recorded/)
    click_link("Orders")
    find("button", text: "SK-5266").click
    expect(evidence).to have_text("Order SK-5266").and have_css("li", text: "Referral")
    expect(page).to have_current_path(/order=SK-5266/)
  end

  it "judge a recording that another browser has saved" do
    open_screen("tags/recording")
    har = {"log" => {"entries" => [{"startedDateTime" => "2026-11-02T10:00:00Z", "request" => {"method" => "GET", "url" => "http://www.skerryline.example/day-pass"}, "response" => {"status" => 200, "content" => {"mimeType" => "text/html", "text" => "<title>x</title>"}}}]}}
    path = File.join(SPEC_VAR, "mine.har")
    File.write(path, JSON.generate(har))
    find("input[type=file]", visible: :all).attach_file(path)
    expect(page).to have_css("h2, h3", text: "www.skerryline.example/day-pass").and have_text("Gullwatch is not on this page")
    expect(page).to have_current_path(/recording=\d+/)
    refresh
    expect(page).to have_css("h2", text: "mine.har").and have_text("Gullwatch is not on this page")
  end

  it "read an export of ads by matched columns, and show what a click opens by level" do
    open_screen("links/import?from=ads")
    path = File.join(SPEC_VAR, "export.csv")
    File.write(path, "Titel,Ziel,Anhang\nFilm,http://www.skerryline.example/quay,c=[*click*]&s=[*site*]\n")
    fill_in("Network", with: "Brightbuoy")
    attach_file(path) { click_button("Choose a file") }
    expect(page).to have_text("1 new placement").and have_text("2 columns are not used: Titel, Anhang")
    {"parameters added at the end" => "Anhang", "ad" => "Titel"}.each do |field, column|
      find("input", class: "mantine-Select-input", id: find("label", text: field, exact_text: true)["for"]).click
      find("[role=option]", text: column).click
      expect(page).to have_field(field, with: column)
    end
    expect(page).to have_css("[data-level=network][data-token=click]", text: "bb-7741").and have_css(
      "[data-empty]",
      text: "site = nothing to fill it"
    )
    click_button("Keep 1 new placement")
    click_link("Show them")
    fill_in("Search addresses and places", with: "c=bb-7741")
    choose_row("/quay")
    expect(evidence).to have_text("Brightbuoy · Film").and have_css(
      "[data-level=ad]",
      text: "http://www.skerryline.example/quay?c="
    )
  end

  it "set apart what is no link in a message, and say where its parts differ" do
    open_screen("links/import?from=messages")
    attach_file(File.join(CoreValues::DEMO, "messages/harbour-letter.eml")) { click_button("Choose a file") }
    expect(page).to have_text("3 addresses set apart").and have_css("td", text: "unsubscribe").and have_text(
                  "where the HTML part links to"
                )
  end

  it "label, leave out and undo, from the evidence and for all that the filters leave" do
    open_screen("links?q=winter-lights")
    expect(page).to have_text(/\d+ links/)
    rows.first.click
    evidence.find_field("Add a label").send_keys("to check", :enter)
    expect(page).to have_text("1 link labelled.")
    expect(evidence).to have_button("to check ×")
    click_button("Act on all")
    click_button(text: /Leave \d+ links out of sweeps/)
    expect(page).to have_text("No link fits these filters.").and have_text("left out of sweeps.")
    find(".mantine-Notification-root", text: "left out").click_button("Undo")
    expect(page).to have_css("[role=row][aria-selected]")
  end

  it "answer an unknown workspace and an unknown link in words" do
    visit("/w/none/links")
    expect(page).to have_text("There is no workspace “none”.")
    open_screen("links?chosen=999999")
    expect(evidence).to have_text("There is nothing here.")
    visit("/nowhere")
    expect(page).to have_text("There is nothing at this address.")
  end

  it "answer a file that is no table in words, and take the next one" do
    open_screen("links/import")
    {
      "empty.csv" => ["", "The file is empty."],
      "picture.csv" => ["\x89PNG\x00\x01", "binary file"],
      "fine.csv" => ["address\nhttp://www.skerryline.example/ok\n", "1 new placement"]
    }.each do |name, (bytes, text)|
      File.binwrite(File.join(SPEC_VAR, name), bytes)
      attach_file(File.join(SPEC_VAR, name)) { find("button", text: /Choose/).click }
      expect(page).to have_text(text)
    end
  end

  it "show what was seen on the web as text, never as markup" do
    hostile = "<img src=x onerror=document.title='owned'><script>document.title='owned'</script>"
    LinkImporting.new(
      Workspace.first,
      "address,kind,found,owner\n\"http://www.skerryline.example/?utm_source=#{hostile.tr(" ", "+")}\",ad,\"#{hostile}\",\"#{hostile}\"\n",
      filename: "x.csv"
    ).call
    open_screen("links?q=onerror")
    choose_row("www.skerryline.example")
    expect(evidence).to have_text("<img src=x onerror=document.title='owned'>")
    expect(page).to have_no_css("img[src=x]")
    expect(page.title).to eq("Orvant")
  end

  it "keep a trail's lanes below their hops where the picture is wider than its place, and say the referrer" do
    page.driver.resize(820, 800)
    open_screen("links?q=/crossing?")
    choose_row("crossing?")
    expect(evidence).to have_css("figure", text: "referrer go.breezehop.example")
    lefts = evaluate_script("[...document.querySelector('figure[aria-label^=Trail]').firstChild.children].map(row => [...row.children].map(one => Math.round(one.getBoundingClientRect().left)))")
    expect(lefts.map(&:size).minmax).to eq([3, 3])
    expect(lefts.uniq.size).to eq(1)
  ensure
    page.driver.resize(1280, 800)
  end

  it "hold in a narrow window and in dark colours" do
    page.driver.resize(620, 800)
    open_screen("links?sort=weight&direction=down")
    rows.first.click
    expect(evidence).to have_text("Found in 1 place")
    expect(page.evaluate_script("document.documentElement.scrollWidth <= window.innerWidth")).to be(true)
    find("button[aria-label='Switch to dark colours']").click
    expect(page).to have_css("html[data-mantine-color-scheme=dark]")
  ensure
    page.driver.resize(1280, 800)
  end

  it "scroll thousands of links, paged by the server" do
    file =
      "address,kind,found\n#{Array.new(3_000) { |number| format("http://www.skerryline.example/many/%05d,ad,list", number) }.join("\n")}\n"
    LinkImporting.new(Workspace.first, file, filename: "many.csv").call
    open_screen("links?q=many&sort=address")
    expect(page).to have_text("3,000 links")
    press(:Down)
    until (chosen = find("[aria-selected=true]").text).include?("/many/02999")
      press(:End)
      expect(page).to have_no_css("[aria-selected=true]", text: chosen[%r{/many/\d+}])
    end
    expect(page).to have_css("[aria-selected=true]", text: "/many/02999")
    expect(rows.size).to be < 80
  end

  # The last of all: it leaves other findings behind.
  it "stop a sweep and go on with it where it ended" do
    # The short links and their pages alone: enough to be caught in the middle.
    Link.where.not(host: "skl.example").update_all(excluded_at: Time.now.utc)
    [RehearsalRun, RehearsalScript, SitePage].each(&:delete_all)
    with_worker do
      open_screen("links")
      click_button("Sweep …")
      click_button(text: /Sweep \d+ links/)
      click_button("Stop")
      click_button(text: /Resume, \d+ left/, wait: WORKING)
      expect(page).to have_css("[role=status] progress")
      expect(page).to have_button("Sweep …", wait: WORKING)
    end
    sweep = Sweep.order(:id).last
    expect(sweep).to have_attributes(state: "done", done: sweep.total)
    expect(sweep.link_trails.count).to eq(Link.swept.count)
    open_screen("sweeps")
    expect(page).to have_css("section", text: /\d+ gone, 0 changed/)
  ensure
    Link.update_all(excluded_at: nil)
  end
end

RSpec.describe "Before anything is there", :empty, :screens do
  {
    "links" => "No links yet.",
    "tags" => "No page has been opened yet.",
    "rehearsals" => "No rehearsals yet.",
    "traffic" => "No visits yet.",
    "fixes" => "No fixes yet."
  }.each do |stop, words|
    it "says what to do next under #{stop}" do
      DemoFixture.clear
      Workspace
        .create!(name: "skerry-line", title: "Skerry Line", host_map: {}, signatures: [], expected_tags: [])
        .convention_versions
        .create!(version: 1, document: JSON.parse(File.read(File.join(CoreValues::DEMO, "convention.json"))))
      open_screen(stop)
      expect(page).to have_css("h2", text: words)
      expect(page).to have_css("button:disabled", text: "Sweep …")
    end
  end
end

# Orvant's own reading of targets against the browser's.
RSpec.describe "Targets as Chromium reads them", :screens do
  it "agrees with the core on every case of its table" do
    visit("/")
    differing =
      Targets::CASES.reject do |reference, expected|
        seen = page.evaluate_script("new URL(arguments[0], arguments[1]).href", reference, Targets::BASE)
        seen.include?("#") ? seen == expected : "#{seen}#frag" == expected
      end
    expect(differing).to eq({})
  end

  it "agrees with the core on thousands of targets strung together from what makes them hard" do
    visit("/")
    strung = Targets.strung(4_000, seed: 2026)
    seen =
      JSON.parse(
        page.evaluate_script(
          "JSON.stringify(arguments[0].map(([target, base]) => URL.canParse(target, base) ? new URL(target, base).href : null))",
          strung
        )
      )
    differing =
      strung
        .zip(seen)
        .reject do |(target, base), href|
          href&.match?(%r{\Ahttps?://[^/?#]*[^a-z0-9.:/?#-]}) || resolved(target, base) == shown(href, base)
        end
    expect(differing).to eq([])
  end

  def resolved(target, base)
    Orvant::Address::Reference.resolve(target, Orvant::Address.parse(base)).raw
  rescue Orvant::Error::UnusableAddress
    nil
  end

  # The final address that a redirect to it would give: the fragment is inherited, and other schemes are not
  # followed.
  def shown(href, base)
    return unless href&.start_with?("http:", "https:")

    href.include?("#") ? href : "#{href}#{base[/#.*/]}"
  end
end
