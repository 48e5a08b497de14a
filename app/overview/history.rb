# frozen_string_literal: true

# What people have done in a workspace, the latest first, and what of it can be taken back.
class History
  MOST = 500
  # undo: what takes it back, nil where nothing does; id: of what it is about · undone: whether it has been
  # taken back.
  Entry = Struct.new(:at, :by, :what, :undo, :id, :undone, keyword_init: true) do
    # @return [Hash{String => Object}]
    def as_document = to_h.transform_keys(&:to_s).merge("at" => at.iso8601)
  end

  ACTS = {
    "exclude" => "left out of sweeps",
    "include" => "taken into sweeps again",
    "owner" => "given the owner",
    "label" => "labelled",
    "unlabel" => "freed of the label",
    "delete" => "deleted"
  }.freeze

  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
  end

  # @return [Array<Entry>]
  def deeds
    all = acts + sheets + signposts + waivers + versions + imports + sweeps + others
    all.sort_by { |deed| [deed.at, deed.id] }.reverse.first(MOST)
  end

  private

  def latest(rows, by: :created_at) = rows.order(by => :desc).limit(MOST)

  def acts
    latest(@workspace.link_acts).map do |act|
      said = "#{Orvant::Words.counted(act.before.size, "link")} #{ACTS.fetch(act.act)}"
      Entry.new(
        at: act.created_at,
        by: act.author,
        what: act.value.empty? ? said : "#{said} “#{act.value}”",
        undo: "act",
        id: act.id,
        undone: !act.undone_at.nil?
      )
    end
  end

  def sheets
    latest(@workspace.build_sheets.where.not(thrown_away_at: nil), by: :thrown_away_at).map do |sheet|
      Entry.new(
        at: sheet.thrown_away_at,
        by: sheet.thrown_away_by,
        what: "The sheet “#{sheet.name}” thrown away, with #{Orvant::Words.counted(sheet.rows.size, "row")}",
        undo: "sheet",
        id: sheet.id,
        undone: false
      )
    end
  end

  def signposts
    latest(@workspace.signposts.where.not(taken_down_at: nil), by: :taken_down_at).map do |one|
      Entry.new(
        at: one.taken_down_at,
        by: one.taken_down_by,
        what: "The signpost #{one.host}#{one.path} taken down",
        undo: "signpost",
        id: one.id,
        undone: false
      )
    end
  end

  def waivers
    latest(@workspace.waivers).map do |one|
      Entry.new(
        at: one.created_at,
        by: one.author,
        what: "A finding of #{one.code} let stand until #{one.ends.iso8601}: #{one.reason}",
        undo: "waiver",
        id: one.id,
        undone: !one.over_at.nil?
      )
    end
  end

  def versions
    latest(@workspace.convention_versions).map do |one|
      said =
        if one.restores
          "Version #{one.version} of the convention saved, which brings back version #{one.restores}"
        else
          "Version #{one.version} of the convention saved"
        end
      Entry.new(
        at: one.created_at,
        by: one.author,
        what: one.note.empty? ? said : "#{said}: #{one.note}",
        undo: "version",
        id: one.version,
        undone: false
      )
    end
  end

  def imports
    latest(@workspace.imports.where.not(state: Import::ACTIVE)).map do |one|
      from = [one.filename, one.source].find { |text| !text.empty? } || "a fetch"
      Entry.new(
        at: one.created_at,
        by: one.author,
        what: "#{Orvant::Words.counted(one.added, "row")} added from #{from}",
        undo: "import",
        id: one.id,
        undone: false
      )
    end
  end

  def sweeps
    latest(@workspace.sweeps).map do |one|
      over =
        if one.whole
          "everything"
        else
          [
            [one.chosen_links.count, "link"],
            [one.chosen_scripts.count, "rehearsal"]
          ].reject { |number, _| number.zero? }
            .map { |number, noun| Orvant::Words.counted(number, noun) }.join(", ")
        end
      Entry.new(
        at: one.created_at,
        by: one.author,
        what: "A sweep begun over #{over.empty? ? "pages" : over}",
        undo: nil,
        id: one.id,
        undone: false
      )
    end
  end

  def others
    latest(@workspace.deeds).map do |one|
      Entry.new(
        at: one.created_at,
        by: one.author,
        what: one.said,
        undo: ("setting" unless one.setting.empty?),
        id: one.id,
        undone: !one.undone_at.nil?
      )
    end
  end
end
