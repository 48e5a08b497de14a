# frozen_string_literal: true

require_relative "../screen_helper"

# Rules that are changed, and links that are made: the main paths.
RSpec.describe "Rules and new links", :demo, :screens do
  let(:workspace) { Workspace.find_by!(name: "skerry-line") }

  def effect = find("[aria-label=Effect]")

  # The cell of a grid, by row and column from 1, the gutter aside.
  def cell(row, column) =
    all(".dsg-row:not(.dsg-row-header)", minimum: row)[row - 1].all(".dsg-cell:not(.dsg-cell-gutter)")[column - 1]

  # @return [Array] the saves that the browser wants to make, none of which is made
  def hold_saves
    held = []
    tab = page.driver.browser.page
    tab.network.intercept(pattern: "*/sheets/*")
    tab.on(:request) { |request| (request.method == "PUT") ? held << request : request.continue }
    held
  end

  def let_go(held)
    held.each(&:continue)
    page.driver.browser.page.command("Fetch.disable")
  end

  def gutter(row) = all(".dsg-row:not(.dsg-row-header)", minimum: row)[row - 1].find(".dsg-cell-gutter")

  def type_into(row, column, text)
    cell(row, column).click
    press(text)
    press(:enter)
  end

  it "show the effect of a change before it is saved, keep it as a version, compare it and bring the earlier one back" do
    open_screen("convention/edit?part=campaign")
    expect(effect).to have_text("Nothing is changed yet")
    fill_in("Longest, in characters", with: "12")
    expect(effect).to have_text(/\d+ links change of 134: \d+ become untidy/).and have_text("param/too-long")
    page.refresh
    expect(effect).to have_text("links change of 134")
    effect.fill_in("What changes, and why", with: "Short names")
    effect.fill_in("By", with: "Ingrid")
    effect.click_button("Save as version 2")
    expect(effect).to have_text("Nothing is changed yet")

    click_link("Versions")
    expect(page).to have_css("tr", text: "Short names").and have_css("tr", text: /role campaign\s*longest\s*40\s*12/)
    click_button("Bring version 1 back")
    expect(page).to have_css("tr", text: "brings back version 1")
    expect(workspace.convention.role("campaign").longest).to eq(40)
  end

  it "name path and reason while rules contradict each other, and let nothing of them be saved" do
    open_screen("convention/edit?part=source")
    type_into(2, 1, "lanternfind")
    expect(effect).to have_text("/roles/0/vocabulary/values: a value stands there twice")
    effect.fill_in("What changes, and why", with: "x")
    expect(effect).to have_button("Save as version", disabled: true)
    effect.click_button("Drop these changes")
    expect(effect).to have_text("Nothing is changed yet")
  end

  it "tell the second of two people who change the rules, and let them save on top" do
    open_screen("convention/edit?part=content")
    fill_in("Longest, in characters", with: "70")
    ConventionVersion.save!(
      workspace,
      workspace.convention_version.document.merge("slow_ms" => 2_500),
      base: workspace.convention_version.version,
      author: "Ola"
    )
    number = workspace.convention_version.version
    effect.fill_in("What changes, and why", with: "Longer")
    effect.click_button(text: /Save as version/)
    expect(effect).to have_text("Ola saved version #{number} in the meantime").and have_css("tr", text: "slow_ms")
    effect.click_button("Save mine on top of version #{number}")
    expect(page).to have_text("version #{number + 1}")
    expect(workspace.convention.role("content").longest).to eq(70)
  end

  it "put proposals that were learned into a draft" do
    open_screen("convention/learn")
    check("Accept: Words of the campaign are mostly parted by “-”.")
    check(page.all("input[type=checkbox]").map { |box| box["aria-label"] }.grep(/pairs of source/).first)
    click_button("Put 2 proposals into a draft")
    expect(effect).to have_text(/cannot be saved yet|link/)
    effect.click_button("Drop these changes")
  end

  it "make links in a sheet: typed, judged, corrected, undone, fanned out and put into the inventory" do
    open_screen("links/build")
    fill_in("Name of the new sheet", with: "June letter")
    click_button("Begin a sheet")
    expect(page).to have_css("section[aria-label=Rows]")
    {
      2 => "http://www.skerryline.example/day-pass",
      3 => "message",
      4 => "island-leter",
      5 => "email",
      6 => "june"
    }.each { |column, text| type_into(1, column, text) }
    expect(page).to have_text("1 row, 1 rejected")
    cell(1, 4).click
    side = find("[aria-label='The row at hand']")
    expect(side).to have_text("a slip away from “island-letter”").and have_text("It keeps its parameters.")
    side.click_button("Write “island-letter”")
    expect(page).to have_text("1 row, 0 rejected")
    click_button("Undo")
    expect(page).to have_text("1 row, 1 rejected")
    click_button("Redo")
    expect(page).to have_text("1 row, 0 rejected")

    click_button("Fan out …")
    within("[role=dialog]") do
      fill_in("Landing address", with: "http://www.skerryline.example/guided-walks")
      find_field("campaign").set("june")
      ["ad tidepost paid-social", "message crew-letter email", "print poster print"].each do |place|
        check(place)
      end
      click_button("Make 3 rows")
    end
    expect(page).to have_text("4 rows, 0 rejected").and have_text("kept")
    click_button("Put 4 links into the inventory")
    expect(page).to have_text("4 links are in the inventory")
    expect(workspace.links.where("address LIKE '%utm_campaign=june%'").count).to eq(4)
  end

  it "take names from the ads of a network, and fill whole rows down without adding any" do
    sheet = workspace.build_sheets.create!(name: "From ads", rows: [])
    open_screen("links/build/#{sheet.id}")
    click_button("From ads …")
    find_field("Network").click
    find("[role=option]", text: "Tidepost").click
    find_field("Source and medium").click
    find("[role=option]", text: "tidepost / paid-social").click
    click_button("Make the rows")
    expect(page).to have_no_button("Make the rows")
    expect(page).to have_text(/\d+ rows, \d+ rejected/).and have_text("kept")
    filled = sheet.reload.rows
    expect(filled.map { |row| row["values"]["campaign"] }).to include("winter-lights", "seal-trips")
    expect(filled.map { |row| row["values"]["source"] }.uniq).to eq(["tidepost"])

    gutter(1).click
    press([:shift, :down])
    press([:ctrl, "d"])
    expect(page).to have_text("kept").and have_text("#{filled.size} rows,")
    await([filled[0], filled[0], filled[2]]) { sheet.reload.rows.first(3) }
  end

  it "store what was typed while an earlier save was still under way" do
    sheet = workspace.build_sheets.create!(name: "Slow", rows: [])
    open_screen("links/build/#{sheet.id}")
    expect(page).to have_css("section[aria-label=Rows]")
    held = hold_saves
    type_into(1, 6, "first")
    await(1) { held.size }
    type_into(2, 6, "second")
    expect(page).to have_text("2 rows,").and have_no_text("kept")
    expect(held.size).to eq(1)
    let_go(held)
    expect(page).to have_text("kept")
    expect(sheet.reload.rows.map { |row| row["values"]["campaign"] }).to eq(%w[first second])
  end

  it "hold a rejected row back until it is said why it leaves" do
    sheet =
      workspace.build_sheets.create!(
        name: "Held",
        rows: [
          {
            "landing" => "http://www.skerryline.example/",
            "kind" => "message",
            "values" => {
              "source" => "island-letter",
              "medium" => "email",
              "campaign" => "June"
            }
          }
        ]
      )
    open_screen("links/build/#{sheet.id}")
    expect(page).to have_button("Put 0 links into the inventory", disabled: true)
    cell(1, 6).click
    find_field("Why it leaves nevertheless").set("Printed already")
    expect(page).to have_button("Put 1 link into the inventory")
  end

  it "put up a signpost, turn it, and take it down" do
    open_screen("links/signposts?chosen=new")
    fill_in("Path", with: "/walrus")
    fill_in(
      "Leads to",
      with: "http://www.skerryline.example/day-pass?utm_source=poster&utm_medium=print&utm_campaign=seal-season"
    )
    click_button("Put it up")
    expect(evidence).to have_text("http://skl.example/walrus").and have_css(
            "img[alt='Code of http://skl.example/walrus']"
          )
    evidence.fill_in(
      "Leads to",
      with: "http://www.skerryline.example/timetable?utm_source=poster&utm_medium=print&utm_campaign=seal-season"
    )
    evidence.click_button("Change the signpost")
    expect(evidence).to have_css("td", text: "/timetable").and have_css("td", text: "/day-pass")
    evidence.click_button("Take it down")
    expect(page).to have_text("is taken down").and have_text("2 signposts")
    click_button("Put it up again")
    expect(page).to have_text("3 signposts")
  end

  it "orders channel rules by form, tries a visit, and shows what each rule catches" do
    open_screen("convention/edit?part=channels")
    fill_in("Try a medium", with: "email")
    expect(page).to have_text("Such a visit is “Email”, by rule 4")
    expect(page).to have_text(/[\d,]+ of [\d,]+ sessions/)
    4.downto(2) { |number| click_button("Ask rule #{number} earlier") }
    expect(page).to have_text("Such a visit is “Email”, by rule 1")
    fill_in("Channel of rule 1", with: "Letters")
    expect(page).to have_text("Such a visit is “Letters”, by rule 1")
    open_screen("convention/edit?part=dialects")
    fill_in("Try a click pattern", with: "http://www.skerryline.example/?a=<~issue~>")
    expect(page).to have_text("Opens http://www.skerryline.example/?a=november-2026")
  end
end
