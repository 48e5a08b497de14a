# frozen_string_literal: true

# One thing a check found in a sweep. Current is what the last look at its subject found. What is not any
# more was looked for again and absent (`absent_in`), or another finding of its subject stands for it, the
# same again or another (`superseded_in`), or its subject is gone (`ended`).
class Finding < ActiveRecord::Base
  belongs_to :workspace
  belongs_to :sweep
  belongs_to :link, optional: true
  belongs_to :fix, optional: true
  belongs_to :absent_in, class_name: "Sweep", optional: true

  scope :current, -> { where(current: true) }
  # Those that nobody has waived, or whose waiver has come to its end.
  scope :standing,
    -> { current.where("findings.waived_until IS NULL OR findings.waived_until < ?", Date.current) }
  # Of which it is no longer asked whether they are there, since rules or settings have changed.
  scope :unasked, -> { where(current: false, ended: false).where.not(unasked: nil) }
  # Those that a look at their subjects would settle.
  scope :unsettled, -> { current.or(unasked) }
  # The last word on each subject, those that were absent too: they may be there again.
  scope :last_word,
    ->(sweep) { where(ended: false).where("superseded_in_id IS NULL OR superseded_in_id = ?", sweep.id) }
  scope :waived, -> { current.where("findings.waived_until >= ?", Date.current) }

  # @param finding [Orvant::Finding]
  # @param subject [Hash] link_id, page or rehearsal, with workspace_id and sweep_id
  # @return [Hash] a row to insert
  def self.row(finding, subject)
    {created_at: Time.now.utc,
     page: nil,
     rehearsal: nil,
     link_id: nil,
     over_all: false,
     current: true,
     **subject,
     code: finding.code,
     weight: finding.weight, parameter: finding.parameter, place: finding.place,
     message: finding.message, evidence: finding.evidence, correction: finding.correction,
     corrected_address: finding.corrected_address, root: finding.root, remedy: finding.remedy.to_h}
  end

  # @param found [Array<Orvant::Finding>] of one subject
  # @param subject [Hash] as `row` takes it
  def self.keep(found, subject)
    Insertion.new(self, found.map { |finding| row(finding, subject) }).call
  end

  # What was found again in the very sweep in which it is kept as absent is not absent: another stands for it.
  #
  # @param workspace [Workspace]
  def self.supersede_found_again(workspace)
    workspace.findings.where.not(absent_in_id: nil).where(<<~SQL).update_all("superseded_in_id = absent_in_id, absent_in_id = NULL")
      EXISTS (
        SELECT 1 FROM findings AS again
        WHERE again.sweep_id = findings.absent_in_id AND again.code = findings.code AND again.root = findings.root
          AND COALESCE(again.parameter, '') = COALESCE(findings.parameter, '')
          AND COALESCE(again.page, '') = COALESCE(findings.page, '')
          AND COALESCE(again.rehearsal, '') = COALESCE(findings.rehearsal, '')
          AND (COALESCE(again.link_id, 0) = COALESCE(findings.link_id, 0)
               OR again.link_id = (SELECT replaced_by_id FROM links WHERE links.id = findings.link_id)))
    SQL
  end

  # @param link_ids [Array<Integer>]
  # @return [Hash{Integer => String}] what the heaviest finding that stands says of each
  def self.heaviest(link_ids)
    found = standing.where(link_id: link_ids).order(:id).pluck(:link_id, :weight, :message)
    found.group_by(&:first).transform_values do |same|
      same.max_by { |_, weight, _| Link::WEIGHTS.fetch(weight, 0) }.last
    end
  end

  # @param sweep [Sweep] in which its subject is looked at, once or several times
  # @return [Boolean] whether that look settles what becomes of it
  def unsettled?(sweep) = current || !unasked.nil? || [absent_in_id, superseded_in_id].include?(sweep.id)

  # @return [String] what it was found on
  def subject
    return "link #{link_id}" if link_id
    return "page #{page}" if page

    rehearsal ? "rehearsal #{rehearsal}" : "all links"
  end

  # @return [String] what it says in detail: another value is another finding
  def detail = Digest::SHA256.hexdigest([parameter, root, *evidence].join("\n"))[0, Orvant::Cut::DIGEST]

  # @return [Orvant::Fix::Entry]
  def entry
    core = Orvant::Finding.new(code: code, weight: weight, root: root,
      remedy: Orvant::Remedy.new(**remedy.transform_keys(&:to_sym)))
    Orvant::Fix::Entry.new(
      id: id,
      finding: core,
      page: page,
      sightings: link ? link.sightings.sort_by(&:id).map(&:seen) : []
    )
  end

  # @return [Hash{String => Object}]
  def as_document
    {"id" => id, "code" => code, "weight" => weight, "parameter" => parameter, "place" => place,
     "message" => message, "evidence" => evidence, "correction" => correction,
     "corrected_address" => corrected_address, "link_id" => link_id, "page" => page, "rehearsal" => rehearsal,
     "fix_id" => fix_id,
     "sweep_id" => sweep_id,
     "convention_version" => sweep.convention_version.version,
     "waived_until" => (waived_until if waived_until && waived_until >= Date.current)&.iso8601,
     "found_at" => created_at.iso8601}
  end
end
