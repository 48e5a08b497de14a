# frozen_string_literal: true

class Api
  FIX_COLUMNS = %w[state weight action value where owner findings sessions conversions revenue].freeze
  CORRECTED_COLUMNS = %w[address replaces kind found owner].freeze

  helpers do
    def ordered_fixes
      fixes = workspace.fixes
      fixes = fixes.where(state: params["state"].split(",")) unless params["state"].to_s.empty?
      fixes.sort_by { |fix| [-fix.sessions, -fix.revenue, -fix.shared_sessions, Orvant::Finding::WEIGHTS.index(fix.weight), fix.id] }
    end

    def one_fix = workspace.fixes.find(params["id"])

    def fix_detail(fix)
      findings = fix.findings.includes(:link).order(:id).to_a
      {"fix" => fix.as_document, "findings" => findings.last(200).map { |one| fix_finding(one) },
       "corrected" => corrected(findings).size, "can_check" => !fix.proof_scope.nil?,
       "checks" => fix.sweeps.order(id: :desc).limit(10).map(&:as_document), "rows" => fix_rows(fix)}
    end

    def fix_finding(finding)
      link_finding(finding).merge("address" => finding.link&.address,
        "parts" => finding.link && anatomy(finding.link.address), "current" => finding.current)
    end

    # The rows that this fix wins back, alike ones together.
    def fix_rows(fix)
      rows = workspace.traffic_rows.where(ROWS_OF_ROOT, fix.root)
      rows.group(:channel, :rightful_channel, :source, :medium, :campaign, :landing,
        :referrer).order(Arel.sql("SUM(sessions) DESC")).limit(20)
        .pluck(:channel, :rightful_channel, :source, :medium, :campaign, :landing, :referrer,
          Arel.sql("SUM(sessions), SUM(revenue)"))
        .map { |cells| %w[channel becomes source medium campaign landing referrer sessions revenue].zip(cells).to_h }
    end

    # One corrected address a link, with the place where it goes. What a server must mend is not mended by another link.
    def corrected(findings)
      findings.select { |one| one.corrected_address && one.link && one.remedy["at"] == "sighting" }.uniq(&:link_id)
    end
  end

  get "/api/workspaces/:workspace/fixes" do
    json("fixes" => ordered_fixes.map(&:as_document))
  end

  get "/api/workspaces/:workspace/fixes.csv" do
    rows = ordered_fixes.map { |fix| fix.as_document.merge("revenue" => format("%.2f", fix.revenue / 100.0)).values_at(*FIX_COLUMNS) }
    csv("fixes.csv", FIX_COLUMNS, rows)
  end

  get "/api/workspaces/:workspace/fixes/:id" do
    json(fix_detail(one_fix))
  end

  get "/api/workspaces/:workspace/fixes/:id/corrected.csv" do
    rows = corrected(one_fix.findings.includes(:link).to_a).map { |one| [one.corrected_address, one.link.address, one.link.kind, one.link.place, one.link.owner] }
    csv("corrected-links.csv", CORRECTED_COLUMNS, rows)
  end

  post "/api/workspaces/:workspace/fixes/:id/check" do
    scope = one_fix.proof_scope or raise Problem.new(:cannot_check)
    begin_sweep(scope: scope, fix: one_fix)
  end
end
