# frozen_string_literal: true

# The work that follows, its lists, and its proof.
class FixesResource < Resource
  include BeginsSweeps

  # What is shown of one fix: the last findings and checks.
  MOST_FINDINGS = 200
  MOST_CHECKS = 10
  FIX_COLUMNS = %w[state weight action value where owner findings sessions conversions revenue].freeze
  # Rows of ads that a screen shows; the file holds all.
  MOST_AD_ROWS = 20
  CORRECTED_COLUMNS = %w[address replaces kind found owner].freeze

  get "/api/workspaces/:workspace/fixes" do
    json("fixes" => ordered_fixes.map(&:as_document))
  end

  get "/api/workspaces/:workspace/fixes.csv" do
    rows = ordered_fixes.map do |fix|
      fix.as_document.merge("revenue" => format("%.2f", fix.revenue / 100.0)).values_at(*FIX_COLUMNS)
    end
    csv("fixes.csv", FIX_COLUMNS, rows)
  end

  get "/api/workspaces/:workspace/fixes/:id" do
    json(fix_detail(one_fix))
  end

  get "/api/workspaces/:workspace/fixes/:id/corrected.csv" do
    rows = corrected(one_fix.findings.includes(:link).to_a).map do |one|
      [one.corrected_address, one.link.address, one.link.kind, one.link.place, one.link.owner]
    end
    csv("corrected-links.csv", CORRECTED_COLUMNS, rows)
  end

  get "/api/workspaces/:workspace/fixes/:id/ads.csv" do
    rows = ad_rows(one_fix.findings.standing.includes(link: :sightings).order(:id).to_a)
    csv(
      "ads-to-upload.csv",
      Orvant::Fix::AdRows::COLUMNS,
      rows.map { |row| row.to_h.values_at(*Orvant::Fix::AdRows::COLUMNS) }
    )
  end

  post "/api/workspaces/:workspace/fixes/:id/check" do
    scope = one_fix.proof_scope or raise Problem.new(:cannot_check)
    begin_sweep(scope: scope, fix: one_fix)
  end

  private

  def ordered_fixes
    fixes = workspace.fixes
    fixes = fixes.where(state: params["state"].split(",")) unless params["state"].to_s.empty?
    fixes.sort_by do |fix|
      [-fix.sessions, -fix.revenue, -fix.shared_sessions, Orvant::Finding::WEIGHTS.index(fix.weight), fix.id]
    end
  end

  def one_fix = workspace.fixes.find(params["id"])

  def fix_detail(fix)
    findings = fix.findings.includes(link: :sightings).order(:id).to_a
    rows = ad_rows(findings)
    {"fix" => fix.as_document,
     "unasked" => fix.unasked,
     "ads" => rows.first(MOST_AD_ROWS).map(&:to_h),
     "ad_rows" => rows.size,
     "no_list" => no_list(fix, findings, rows),
     "findings" => findings.last(MOST_FINDINGS).map { |one| fix_finding(one) },
     "corrected" => corrected(findings).size, "can_check" => !fix.proof_scope.nil?,
     "checks" => fix.sweeps.order(id: :desc).limit(MOST_CHECKS).map(&:as_document), "rows" => FixRows.new(workspace, fix).documents}
  end

  def fix_finding(finding)
    finding_document(finding).merge("address" => finding.link&.address,
      "parts" => finding.link && anatomy(finding.link.address), "current" => finding.current)
  end

  # What a network takes in for the ads among them.
  def ad_rows(findings)
    ads = corrected(findings).flat_map do |one|
      LinkEntries.sightings(one.link).zip(one.link.sightings.reject(&:ended_by_id).sort_by(&:id))
        .filter_map { |core, stored| ad(one, core, stored) if core.kind == "ad" }
    end
    Orvant::Fix::AdRows.new(ads).rows
  end

  # Sightings of earlier versions know what the ad itself sets.
  def ad(finding, core, stored)
    facts = core.facts.to_h
    levels = stored.click.to_h["levels"] ||
      [{
        "name" => "ad",
        "landing" => core.declared&.raw,
        "tail" => facts["tail"],
        "pattern" => facts["pattern"]
      }.compact]
    Orvant::Fix::AdRows::Ad.new(
      facts: facts,
      levels: levels,
      from: Orvant::Inventory::Samples.put_back(Orvant::Address.new(finding.link.address), [core]).raw,
      to: finding.corrected_address,
      opens: opens(stored, levels)
    )
  end

  # @return [Proc, nil] levels => the address that a click on the ad opens by them, tokens where only samples
  #   stand; nil where its dialect is not known
  def opens(stored, levels)
    return unless stored.click_address(convention, levels: levels)

    lambda do |mended|
      click = stored.click_address(convention, levels: mended)
      samples = click.samples(convention.billed_hosts)
      Orvant::Inventory::Samples.put_back(
        Orvant::Address.new(click.after(convention.billed_hosts)),
        [Orvant::Inventory::Sighting.new(samples: samples)]
      )
    end
  end

  # @return [String, nil] why there is nothing to upload
  def no_list(fix, findings, rows)
    return if rows.any? || corrected(findings).any?

    {"server" => "This is mended on a server: there it is one rule, and no link need be changed.",
     "page" => "This is mended on the page itself, so there is no list of links to change.",
     "settings" => "This is mended in the settings, so there is no list of links to change.",
     "convention" => "This is for the rules, or for whoever names things: no single link tells what is right."}
      .fetch(fix.at) {
        "What was meant cannot be told from the links alone, so no corrected addresses can be offered."
      }
  end

  # One corrected address a link, with the place where it goes. What a server must mend is not mended by
  # another link.
  def corrected(findings)
    findings.select { |one|
      one.corrected_address &&
        one.link &&
        one.remedy["at"] == "sighting"
    }.uniq(&:link_id)
  end
end
