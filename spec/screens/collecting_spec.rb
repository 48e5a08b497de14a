# frozen_string_literal: true

require_relative "../screen_helper"

# The ways in for what teams have, and what is done with many links at once.
RSpec.describe "Collecting", :demo, :screens do
  it "lists what was done, and takes it back from there" do
    open_screen("history")
    fill_in("Search what was done", with: "print.csv")
    expect(page).to have_css("tbody tr", count: 1)
    click_button("Take back: 2 rows added from print.csv")
    expect(page).to have_text("Nothing that was done fits this search.")
    expect(Import.exists?(filename: "print.csv")).to be(false)
  end

  it "finds the links in a chat message, and rejects one that is cut off" do
    open_screen("links/import?from=paste")
    fill_in(
      "Text with addresses",
      with:
        "Look: [pass](http://www.skerryline.example/day-pass?utm_source=chat), <http://skl.example/n|new> and http://www.skerryline.example/wal…"
    )
    click_button("Find the addresses")
    expect(page).to have_text("2 new placements, 0 there already, 1 rejected").and have_text("The address is cut off")
    click_button("Keep 2 new placements")
    expect(page).to have_text("2 placements added, 0 there already, 1 rejected").and have_link("Save the rejected rows")
    click_link("Show them")
    fill_in("Search addresses and places", with: "utm_source=chat")
    choose_row("utm_source=chat")
    expect(evidence).to have_text("pasted text")
  end

  it "reads a spreadsheet with a title above its header, cells that link, and a figure that is none" do
    rows = [
      ["Codes of the season"],
      %w[Code Place Cost],
      [{text: "Open", link: "http://skl.example/quay?x=1"}, "Quay wall", "lots"]
    ]
    path = File.join(SPEC_VAR, "codes.xlsx")
    File.binwrite(path, Books.xlsx("Codes" => rows))
    open_screen("links/import?from=print")
    attach_file(path) { click_button("Choose a file") }
    expect(page).to have_text("1 new placement, 0 there already, 0 rejected").and have_text(
            "1 row above the header in line 2 is not read."
          )
    expect(page).to have_text(
      "1 figure could not be read and is left out; the rows are kept. Line 3: The spend “lots” is no amount."
    )
    click_button("Keep 1 new placement")
    click_link("Show them")
    fill_in("Search addresses and places", with: "quay?x=1")
    choose_row("quay?x=1")
    expect(evidence).to have_text("Quay wall")
  end

  it "tries a click pattern by level, with samples, with a given value, and with none" do
    open_screen("links/click-address?network=Brightbuoy")
    fill_in("Click pattern of the account", with: "http://t.skl.example/c?n=[*click*]&to=[*page.enc*]")
    fill_in("Landing address of the ad", with: "http://www.skerryline.example/day-pass?a=1")
    expect(page).to have_css("[data-level=network][data-token=click]", text: "bb-7741").and have_text(
            "to=http%3A%2F%2Fwww.skerryline.example%2Fday-pass%3Fa%3D1"
          )
    expect(page).to have_current_path(/account_pattern=/)
    fill_in("Value of click", with: "zz-1")
    expect(page).to have_css("[data-token=click]", text: "zz-1")
    find("label", text: "Left empty").click
    click_button("Forget given values")
    expect(page).to have_css("[data-empty]", text: "click = nothing to fill it")
  end

  it "gives many links to an owner, deletes them, and takes both back" do
    open_screen("links?kind=print")
    before = Link.where(kind: "print", retired_at: nil).pluck(:id, :assigned_owner).sort
    click_button("Act on all")
    fill_in("Owner or label", with: "Poster team")
    click_button("Give to this owner")
    expect(list).to have_css("[role=row]", text: "Poster team", minimum: before.size.clamp(1, 5))
    find(".mantine-Notification-root", text: "given their owner").click_button("Undo")
    expect(list).to have_no_css("[role=row]", text: "Poster team")
    click_button("Act on all")
    click_button(text: /Delete \d+ links/)
    expect(page).to have_text("No link fits these filters.")
    find(".mantine-Notification-root", text: /deleted/).click_button("Undo")
    expect(page).to have_css("[role=row][aria-selected]")
    expect(Link.where(kind: "print", retired_at: nil).pluck(:id, :assigned_owner).sort).to eq(before)
  end

  it "reads an own site in the background, and says in words what a network answers to an old key" do
    with_worker do
      open_screen("links/import?from=site")
      fill_in("Begin at", with: "http://www.skerryline.example/")
      fill_in("Pages at most", with: "6")
      click_button("Read the site")
      expect(page).to have_text("6 pages read", wait: WORKING)
      click_button("More", match: :first)
      expect(page).to have_text(/6 were read, 6 are the most/)
      open_screen("links/import?from=network")
      find("label", text: "Network", exact_text: true).then { |label| find("##{label["for"]}") }.click
      find("[role=option]", match: :first).click
      fill_in("Another key", with: "long-expired")
      click_button("Fetch live ads")
      expect(page).to have_text(/does not accept the key/, wait: WORKING)
    end
  end

  it "refuses to crawl what is not the advertiser's own" do
    with_worker do
      open_screen("links/import?from=site")
      fill_in("Begin at", with: "http://www.isleguide.example/")
      click_button("Read the site")
      expect(page).to have_text(
        "www.isleguide.example is no own host of the workspace; only own sites are crawled.",
        wait: WORKING
      )
    end
  end
end
