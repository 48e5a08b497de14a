# frozen_string_literal: true

# A person's word that one finding may stand, with a reason and an end. It is for what was found, not for the
# link: if the link says something else, the finding is another.
class Waiver < ActiveRecord::Base
  belongs_to :workspace
  belongs_to :link, optional: true

  scope :in_force, -> { where(over_at: nil) }

  # @param finding [Finding]
  # @param reason [String]
  # @param ends [Date] the last day on which it holds
  # @param author [String]
  # @return [Waiver]
  def self.grant!(finding, reason:, ends:, author: "")
    transaction do
      finding.workspace.waivers.create!(
        link_id: finding.link_id,
        code: finding.code,
        subject: finding.subject,
        detail: finding.detail,
        reason: reason,
        ends: ends,
        author: author
      )
        .tap { apply(finding.workspace) }
    end
  end

  # Marks the current findings that a waiver is in force for, and no others; repeats the verdicts on the links
  # concerned.
  #
  # @param workspace [Workspace]
  def self.apply(workspace)
    waivers = workspace.waivers.in_force.to_h { |one| [[one.subject, one.code, one.detail], one.ends] }
    concerned = workspace.findings.current.where(
      "waived_until IS NOT NULL OR code IN (?)",
      waivers.keys.map { |_, code, _| code }.uniq
    )
    changed = concerned.select do |finding|
      waivers[[finding.subject, finding.code, finding.detail]] != finding.waived_until
    end
    changed.each do |finding|
      finding.update_columns(waived_until: waivers[[finding.subject, finding.code, finding.detail]])
    end
    links = workspace.waivers.where.not(link_id: nil).distinct.pluck(:link_id)
    workspace.links.where(id: links).find_each(&:refresh_verdict)
  end

  # Ends those whose day has passed.
  #
  # @param workspace [Workspace]
  def self.end_due(workspace)
    due = workspace.waivers.in_force.where("ends < ?", Date.current)
    return if due.none?

    due.update_all(over_at: Time.now.utc)
    apply(workspace)
  end

  # A person thinks otherwise.
  def take_back
    update!(over_at: Time.now.utc)
    self.class.apply(workspace)
  end

  # @return [Hash{String => Object}]
  def as_document
    {
      "id" => id,
      "code" => code,
      "subject" => subject,
      "link_id" => link_id,
      "reason" => reason,
      "author" => author,
      "ends" => ends.iso8601,
      "over" => !over_at.nil?,
      "created_at" => created_at.iso8601
    }
  end
end
