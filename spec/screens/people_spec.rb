# frozen_string_literal: true

require_relative "../screen_helper"

# A team: the first account, a colleague who only reads, a key, and what each has done under their name.
RSpec.describe "People", :empty, :screens do
  include_context "cheap passwords"

  before do
    DemoFixture.clear
    here = Founding.call(title: "Ferry", own_hosts: ["www.skerryline.example"])
    LinkImporting.new(here, "address,kind\nhttp://www.skerryline.example/?utm_source=a,ad\n", filename: "a.csv").call
  end

  def sign_in(mail)
    fill_in("Mail address", with: mail)
    fill_in("Password", with: "four walls of rain")
    click_button("Sign in")
  end

  def first_owner
    visit("/w/ferry/people")
    fill_in("Your name", with: "Ann Holm")
    fill_in("Mail address", with: "ann@example.test")
    fill_in("A password", with: "four walls of rain")
    click_button("Make the first account")
    expect(page).to have_text("Ann Holm (you)")
  end

  it "asks nothing of one alone, and from the first account on asks everybody, at the address they came for" do
    first_owner
    click_link("Your account, Ann Holm")
    click_button("Sign out")
    visit("/w/ferry/links?kind=ad")
    expect(page).to have_text("Sign in to Orvant")
    sign_in("ann@example.test")
    expect(page).to have_link("Your account, Ann Holm")
    expect(page).to have_current_path("/w/ferry/links?kind=ad")
    click_link("Your account, Ann Holm")
    fill_in("Name", with: "Ann H.")
    click_button("Change the name")
    expect(page).to have_css("h1", text: "Ann H.")
  end

  it "invites a colleague, who sees what a reader may and nothing to change, and is told where that is" do
    first_owner
    fill_in("Mail address", with: "rob@example.test")
    find("form", text: "Make a link").select("reader")
    click_button("Make a link")
    link = find("[role=status]", text: "Give this link").text[%r{http://\S+/join/\S+}]
    expect(page).to have_css("td", text: "rob@example.test")
    fill_in("What it is for", with: "nightly")
    click_button("Make a key")
    expect(page).to have_text("It is shown now and never again")
    expect(ApiKey.pluck(:name, :author)).to eq([["nightly", "Ann Holm"]])

    Capybara.using_session("rob") do
      visit(URI(link).path)
      expect(page).to have_text("Ann Holm lets you look after Ferry as reader")
      fill_in("Your name", with: "Rob")
      fill_in("A password", with: "short")
      click_button("Come in")
      expect(page).to have_text("A password has twelve characters or more")
      fill_in("A password", with: "four walls of rain")
      click_button("Come in")
      click_link("Ferry")
      choose_row("www.skerryline.example")
      expect(page).to have_no_button("Sweep …")
      expect(page).to have_no_button("Test this link")
      expect(page).to have_no_link("Collect")
      visit("/w/ferry/settings")
      expect(page).to have_text("This is for owners.")
      visit(URI(link).path)
      expect(page).to have_text("This link is good for nothing any more.")
    end

    visit("/w/ferry/people")
    select("editor", from: "Role of Rob")
    Capybara.using_session("rob") do
      visit("/w/ferry/links")
      expect(page).to have_button("Sweep …")
    end
    visit("/w/ferry/history?by=Ann+Holm")
    expect(page).to have_text("Rob made editor").and have_no_text("Rob joined")
  end

  it "takes a workspace out as one file, and another in" do
    BundleWriter.new(Workspace.find_by!(name: "ferry")).write(file = File.join(Dir.mktmpdir, "ferry.zip"))
    visit("/")
    attach_file(file, make_visible: true)
    expect(page).to have_text("ferry.zip: 0 of")
    Delayed::Worker.new(quiet: true).work_off
    expect(page).to have_current_path("/w/ferry-2/links")
    choose_row("www.skerryline.example")
    visit("/w/ferry-2/settings")
    expect(page).to have_button("Take everything out")
    fill_in("Pause", with: "2")
    fill_in("Contact", with: "audits@example.test")
    click_button("Save")
    await("audits@example.test") { Workspace.find_by!(name: "ferry-2").pace.to_h["contact"] }
    visit("/w/ferry-2/history")
    find("tr", text: "Pace and keeping changed: pause, contact").click_button("Take back")
    await("") { Workspace.find_by!(name: "ferry-2").pace.to_h["contact"] }
  end
end
