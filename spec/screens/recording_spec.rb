# frozen_string_literal: true

require_relative "../screen_helper"

# A rehearsal of a booking, made by doing it on the picture of its pages.
RSpec.describe "Recording a rehearsal", :demo, :screens do
  landing = "http://www.skerryline.example/groups/enquiry?utm_source=island-letter&utm_medium=email&utm_campaign=groups-winter"

  # The page stands where its picture is, smaller.
  def click_on_page(x, y)
    picture = find("button img")
    await(true) { picture.evaluate_script("this.complete && this.naturalWidth > 0") }
    left, top, scale = picture.evaluate_script("(() => { const box = this.getBoundingClientRect(); return [box.left, box.top, box.width / this.naturalWidth]; })()")
    page.driver.browser.mouse.click(x: left + x * scale, y: top + y * scale)
  end

  def choose_there(said)
    field = find("input[placeholder='Or choose what is on the page']")
    field.click
    find("[role=option]", text: said, match: :first).click
  end

  it "makes steps of what is done, expects what was heard, and plays as it was done" do
    open_screen("rehearsals")
    click_link("Record one")
    fill_in("Where the visit begins", with: landing)
    click_button("Open it")
    expect(evidence).to have_css("li", count: 1).and have_text("expect gullwatch “view”")
    {"Name" => "Ann", "E-mail" => "ann@example.test"}.each do |label, value|
      choose_there(label)
      fill_in(label, with: value)
      click_button("Fill it in")
      expect(evidence).to have_field(with: value)
    end
    choose_there("People")
    find("form input").click
    find("[role=option]", exact_text: "20").click
    click_button("Choose it")
    expect(evidence).to have_css("li", count: 4)
    choose_there("Send enquiry")
    click_button("Click it")
    expect(evidence).to have_css("li", count: 5).and have_text("Send enquiry")
    expect(evidence).to have_css("label", text: "expect gullwatch “lead”").and have_css("input:checked", count: 1)
    fill_in("What it plays", with: "Enquiry by doing")
    click_button("Keep it")
    expect(page).to have_text("Enquiry by doing")
    kept = RehearsalScript.find_by!(name: "enquiry-by-doing")
    expect(kept.document["steps"].last["expect"].map { |one| one["event"] }).to include("lead")

    sweep = DemoFixture.sweep(kept.workspace, scope: {"links" => [], "pages" => [], "rehearsals" => [kept.id]})
    expect([sweep.state, kept.last_run.run["steps"].filter_map { |step| step["error"] }, kept.workspace.findings.current.where(rehearsal: kept.name).pluck(:code)]).to eq(["done", [], []])
  end

  it "says why nothing was opened, and lets another address be tried" do
    open_screen("rehearsals/record")
    ["not an address", "http://10.9.8.7/"].each do |wrong|
      fill_in("Where the visit begins", with: wrong)
      click_button("Open it")
      expect(page).to have_css("[role=alert]", text: /\S/)
    end
    expect(page).to have_text("10.9.8.7")
    fill_in("Where the visit begins", with: landing)
    click_button("Open it")
    expect(evidence).to have_css("li", count: 1)
  end

  it "puts what is done behind the steps that were played, and does one once more without keeping it twice" do
    open_screen("rehearsals/record?of=group-enquiry")
    click_button("Play them")
    expect(evidence).to have_css("li", count: 7).and have_css("label", text: "gullwatch “lead”")
    within(evidence.all("li")[0]) { click_button("Play to here") }
    expect(page).to have_css("button[aria-busy=false] img")
    choose_there("Timetable")
    click_button("Click it")
    expect(evidence).to have_css("li", count: 8)
    expect(evidence.all("li")[1]).to have_text("Timetable")
    within(evidence.all("li")[0]) { click_button("Do it once more") }
    choose_there("Send enquiry")
    expect(evidence).to have_css("li", count: 8)
  end

  it "takes a click on the picture for a click on the page, asks what a field is to hold, and says what could not be done" do
    open_screen("rehearsals/record?address=#{CGI.escape(landing)}")
    click_button("Open it")
    expect(evidence).to have_css("li", count: 1)
    field = DRbObject.new_with_uri(RecorderDesk.uri(RecorderDesk.standing.first)).state["useful"].find do |one|
      one["said"] == "Name"
    end
    expect(field["kind"]).to eq("fill")
    click_on_page(900, 600)
    expect(page).to have_text("That was not done: Nothing is there.")
    click_on_page(180, 47)
    expect(evidence).to have_css("li", count: 2)
    page.refresh
    expect(evidence).to have_css("li", count: 2)
    click_button("Take out", match: :first)
    expect(evidence).to have_css("li", count: 1)
  end

  it "shows what a signature reads of a request while it is written, and keeps it with the settings" do
    open_screen("settings")
    click_button("Describe a tag")
    expect(page).to have_text("Not a signature yet:")
    form = find("section[aria-label^=Signature]")
    within(form) do
      fill_in("Name", with: "Klaxon")
      fill_in("Known as", with: "klaxon")
      find_field("Where its signals go").send_keys("in.klaxon.example/h*", :enter)
      fill_in("event", with: "e", exact: true)
      find_field("Events that are conversions").send_keys("sold", :enter)
      fill_in("A request, to try it", with: "http://in.klaxon.example/hit?e=sold&amount=48\nhttp://www.skerryline.example/")
      expect(form).to have_text("1 request of this tag, 1 of others.").and have_text("a conversion")
      expect(form).to have_no_css("dt", text: "value")
      fill_in("value", with: "sum, amount", exact: true)
      expect(form).to have_css("dt", text: "value").and have_css("dd", text: "48")
    end
    click_button("Save", match: :first)
    await(["sum", "amount"]) do
      Workspace.find_by!(name: "skerry-line").signatures
        .find { |one| one["tag"] == "klaxon" }
        &.dig("fields", "value")
    end
  ensure
    workspace = Workspace.find_by!(name: "skerry-line")
    workspace.update!(signatures: workspace.signatures.reject { |one| one["tag"] == "klaxon" })
  end
end
