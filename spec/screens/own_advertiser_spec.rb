# frozen_string_literal: true

require_relative "../screen_helper"

# A person with a site of their own, from an empty Orvant to a first proven fix, without anything of the demo
# but the world outside.
RSpec.describe "Your own advertiser", :empty, :screens do
  it "is made from its site's address, swept, mended and proven" do
    visit("/")
    expect(page).to have_text("There is no workspace yet.")
    click_link("New workspace")
    fill_in("The site’s address", with: "skerryline.example")
    click_button("Look at the site")
    expect(page).to have_text("Nothing was found there")

    find("summary", text: "The site stands in your own network").click
    fill_in("Where hosts really are", with: "*.example 127.0.0.1:#{WorldServer.port}")
    click_button("Look at the site")
    expect(page).to have_text("Found: Skerry Line").and have_text("skerryline.example: leads to the site")
    fill_in("Name", with: "Ferry")
    click_button("Make the workspace")

    expect(page).to have_text("Collect links")
    click_button("Pasted text")
    fill_in("Text with addresses", with: "http://skl.example/w?utm_source=poster&utm_medium=print&utm_campaign=autumn http://www.skerryline.example/day-pass?utm_source=Letter&utm_medium=email&utm_campaign=autumn")
    click_button("Find the addresses")
    click_button("Keep 2 new placements")
    expect(page).to have_text("2 placements added")
    with_worker do
      click_button("Sweep …")
      click_button("Sweep 2 links")
      expect(page).to have_link(text: /Swept/, wait: WORKING)
      stop("Fixes").click
      choose_row("Bring the page back")
      repair("short-stale")
      evidence.click_button("Check again")
      expect(evidence).to have_text(/Proven .* looked at again, nothing found/, wait: WORKING)
    end
  end

  it "is listed, put away, taken back, and deleted for good by its name" do
    Founding.call(title: "Old ferry", own_hosts: ["www.skerryline.example"])
    visit("/")
    click_button("Put away Old ferry")
    click_button("Delete Old ferry for good …")
    expect(page).to have_button("Delete for good", disabled: true)
    fill_in("Type “Old ferry” to delete it", with: "Old ferry")
    click_button("Delete for good")
    expect(page).to have_no_button("Delete for good").and have_no_text("Old ferry")
    expect(Workspace.exists?(name: "old-ferry")).to be(false)
  end

  it "has settings of its own, and a way to the others" do
    Founding.call(title: "First", own_hosts: ["www.skerryline.example"])
    Founding.call(title: "Second", own_hosts: ["www.skerryline.example"])
    visit("/w/first/settings")
    fill_in("Currency", with: "nok")
    fill_in("Hosts in your own network", with: "*.example 127.0.0.1:#{WorldServer.port}\ngone.example -")
    click_button("Save")
    await({"*.example" => "127.0.0.1:#{WorldServer.port}", "gone.example" => nil}) do
      Workspace.find_by!(name: "first").host_map
    end
    expect(Workspace.find_by!(name: "first").currency).to eq("NOK")
    click_button("Add a goal page")
    fill_in("Page", with: "www.skerryline.example/thanks")
    fill_in("Its events", with: "gullwatch:lead\n")
    click_button("Save")
    await({"goals" => [{"page" => "www.skerryline.example/thanks", "events" => [{"tag" => "gullwatch", "event" => "lead"}]}]}) do
      Workspace.find_by!(name: "first").watching
    end
    fill_in("Clicked for a yes", with: "Agree")
    click_button("Add a page")
    find_field("Its addresses, host and path").send_keys("www.skerryline.example/a", :enter, "www.skerryline.example/b", :enter)
    file = File.join(SPEC_VAR, "counted.csv").tap { |path| File.write(path, "tag,event\ngullwatch,lead\n") }
    attach_file(file) { click_button("Take counted events from a list (CSV: tag, event)") }
    click_button("Save")
    await({"consent" => {"yes" => {"text" => "Agree"}, "tags" => []}, "variants" => [%w[www.skerryline.example/a www.skerryline.example/b]], "counted_events" => [{"tag" => "gullwatch", "event" => "lead"}]}) do
      Workspace.find_by!(name: "first").watching.except("goals")
    end
    click_button("First")
    click_link("Second")
    expect(page).to have_current_path("/w/second/links")
    expect(page).to have_text("No links yet.")
  end
end
