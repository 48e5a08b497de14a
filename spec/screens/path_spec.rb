# frozen_string_literal: true

require_relative "../screen_helper"

# The whole path, as a person walks it: from a list of links to the proof of one fix.
RSpec.describe "From a pile of links to a proven fix", :demo, :screens do
  it "imports, sweeps, shows the trail, weighs the traffic, and proves the repair of a short link" do
    with_worker do
      import_a_list
      sweep_with_progress_over_a_reload
      look_at_a_trail
      weigh_the_traffic
      prove_a_fix
    end
  end

  def import_a_list
    open_screen("links/import")
    attach(
      "address;found;kind;owner\nhttp://skl.example/w?from=flyer;Flyer, Island fair;print;Print studio\nhttp://skl.example/d;Poster, Harbour Street · run 4;print;Print studio\nnot an address;x;print;y\n"
    )
    expect(page).to have_text("1 new placement, 1 there already, 1 rejected").and have_text("line 4").and have_text(
                  "does not begin with http:// or https://"
                )
    click_button("Keep 1 new placement")
    expect(page).to have_text("1 placement added")
    click_link("Show them")
    expect(page).to have_button("Sweep …")
  end

  def attach(text)
    path = File.join(SPEC_VAR, "flyer.csv")
    File.write(path, text)
    attach_file(path) { click_button("Choose a file") }
  end

  def sweep_with_progress_over_a_reload
    click_button("Sweep …")
    expect(page).to have_text(/133 links, 17 hosts, about \d+ (?:seconds|minutes), 1 link on billed hosts that are never requested/)
    click_button("Sweep 133 links")
    expect(page).to have_css("[role=status] progress").and have_button("Stop")
    expect(page).to have_text(/: \d+ of \d+ · \d+ findings?/)
    page.refresh
    expect(page).to have_text(/: \d+ of \d+ · \d+ findings?/)
    expect(page).to have_button("Sweep …", wait: WORKING)
    seen = -> do
      LinkTrail.where.not(outcome: "landed")
        .pluck(:final_address, :reason).inspect + Finding.group(:code).count.inspect
    end
    expect(stop("Links")).to have_text("70 of 135 wrong"), seen
  end

  def look_at_a_trail
    open_screen("links?code=trail/dropped&sort=address")
    expect(rows.size).to eq(8)
    choose_row("skerryline.example/day-pass")
    expect(evidence).to have_css("figure[aria-label*='source lost at hop 1']").and have_text("lost here", minimum: 3)
    expect(evidence).to have_text("An address that keeps everything, followed and proven")
    expect(page).to have_current_path(/chosen=\d+/)
  end

  def weigh_the_traffic
    stop("Traffic").click
    expect(page).to have_text("direct and unassigned: 33 %", count: 2)
    check("Choose the fixes for letter case, Unassigned")
    expect(page).to have_text("With one fix made").and have_text("direct and unassigned: 31 %")
    expect(page).to have_current_path(/fixes=\d+/)
    click_button("letter case")
    expect(evidence).to have_text("742 sessions in 78 rows").and have_text(
            "The medium is “Email” where the rules know “email”"
          )
    evidence.click_link(text: /\Alink \d+\z/, match: :first)
    expect(evidence).to have_text("Crew letter, October · link 1")
  end

  def prove_a_fix
    stop("Fixes").click
    choose_row("Give skl.example/w a target that works")
    evidence.click_button("Check again")
    expect(evidence).to have_text(/Checked .*: 2 findings still there/, wait: WORKING)
    repair("short-stale")
    evidence.click_button("Check again")
    expect(evidence).to have_text(/Proven .* 2 links, pages and rehearsals looked at again, nothing found/, wait: WORKING)
    find("label", text: "Proven").click
    expect(find("[role=row]", text: "Give skl.example/w a target that works")).to have_text("proven")
  end
end
