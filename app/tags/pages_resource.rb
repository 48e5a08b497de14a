# frozen_string_literal: true

# Landing pages as the sealed browser saw them.
class PagesResource < Resource
  UNOPENED_COLUMNS = %w[page title tags lacking].freeze
  PAGE_COLUMNS = %w[page title weight findings tags signals seen].freeze

  get "/api/workspaces/:workspace/pages" do
    findings = workspace.findings.standing.where.not(page: nil).group_by(&:page)
    json("pages" => last_visits.order(:page).map { |visit| visit_row(visit, findings.fetch(visit.page, [])) },
      "tags" => tag_names,
      "senders" => workspace.senders.unknown.count,
      "expected" => workspace.expected_tags.map { |tag| tag["tag"] })
  end

  get "/api/workspaces/:workspace/pages.csv" do
    findings = workspace.findings.standing.where.not(page: nil).group_by(&:page)
    rows = last_visits.order(:page).map do |visit|
      row = visit_row(visit, findings.fetch(visit.page, []))
      [*row.values_at("page", "title", "weight", "findings"), row["tags"].join(" "),
        row["signals"].map { |signal| signal.values.join(" ") }.join("; "), row["visited_at"]]
    end
    csv("pages.csv", PAGE_COLUMNS, rows)
  end

  get "/api/workspaces/:workspace/pages/unopened" do
    json(UnopenedPages.new(workspace).document.merge("names" => tag_names))
  end

  get "/api/workspaces/:workspace/pages/unopened.csv" do
    rows = UnopenedPages.new(workspace).document["pages"].map do |one|
      [*one.values_at("page", "title"), one["tags"].join(" "), one["lacking"].join(" ")]
    end
    csv("pages-not-opened.csv", UNOPENED_COLUMNS, rows)
  end

  get "/api/workspaces/:workspace/page" do
    visit = last_visits.find_by!(page: params["page"].to_s)
    findings = workspace.findings.current.where(page: visit.page).order(:id)
    json("page" => visit_row(visit, findings), "parts" => anatomy(visit.visit["final_address"]),
      "signals" => visit.visit["signals"],
      "refused" => visit.visit["refused"],
      "held" => visit.visit["held"].to_a,
      "states" => visit.visit["states"].to_a, "standing" => visit.visit["installations"].to_a,
      "findings" => findings.map(&:as_document),
      "links" => workspace.links.live.where(id: LinkTrail.where(landing_page: visit.page).select(:link_id)).count)
  end

  get "/api/workspaces/:workspace/page.har" do
    visit = last_visits.find_by!(page: params["page"].to_s)
    recording(visit.recording, "#{visit.page.gsub(/[^\w.-]+/, "_")[0, Orvant::Cut::QUOTE]}.har")
  end

  post "/api/workspaces/:workspace/recordings" do
    bytes = request.body.read(Orvant::Recording::MOST_BYTES + 1).to_s
    kept = after_others do
      KeptRecording.judge(workspace, bytes, filename: line(params["filename"]), author: who.name)
    end
    status 201
    json(kept_document(kept))
  end

  get "/api/workspaces/:workspace/recordings" do
    json("recordings" => workspace.kept_recordings.order(id: :desc).map(&:as_document))
  end

  get "/api/workspaces/:workspace/recordings/:id" do
    json(kept_document(workspace.kept_recordings.find(params["id"])))
  end

  private

  def kept_document(kept) = {"recording" => kept.as_document, **kept.document}

  # The last visit to each page.
  def last_visits
    workspace.page_visits.where(id: workspace.page_visits.group(:page).select("MAX(id)"))
  end

  def visit_row(visit, findings)
    seen = visit.visit
    {"page" => visit.page, "address" => seen["address"], "title" => seen["title"], "reason" => seen["reason"],
     "tags" => seen["tags"], "watched" => seen["watched"],
     "others" => seen["others"].to_i,
     "held" => seen["held"].to_a.size,
     "trouble" => seen["trouble"],
     "heard" => heard(seen, findings),
     "signals" => seen["signals"].map { |signal| signal.slice("tag", "event") }, "findings" => findings.size,
     "weight" => weight_of(findings), "visited_at" => visit.created_at.iso8601}
  end

  # What the checks say of each tag on a page, and how often it was heard.
  def heard(seen, findings)
    tag_names.keys.to_h do |tag|
      said = findings.find { |one| one.place["tag"] == tag }
      sent = seen["signals"] + seen["earlier"].to_a
      [
        tag,
        {
          "times" => sent.count { |signal| signal["tag"] == tag },
          "there" => seen["tags"].include?(tag),
          "code" => said&.code
        }
      ]
    end
  end
end
