# frozen_string_literal: true

# One piece of work that removes all findings with one root.
class Fix < ActiveRecord::Base
  # They follow from evidence. open: to be done · returned: it was proven, and is there again · let_stand:
  # every finding of it may stand for now · proven: the checks of its findings looked again at all that it
  # touches, and found nothing · no_longer_asked: rules or settings have changed, so that nobody asks whether
  # it is there · ended: what it was for is gone.
  STATES = %w[open returned let_stand no_longer_asked proven ended].freeze
  # Those in which there is something to do.
  TO_DO = %w[open returned].freeze

  scope :to_do, -> { where(state: TO_DO) }

  belongs_to :workspace
  has_many :findings
  has_many :sweeps

  # @param workspace [Workspace]
  # @param group [Orvant::Fix]
  # @return [Fix] the one with its root, else a new one
  def self.begin(workspace, group)
    workspace.fixes.create_with(facts(group)).find_or_create_by!(root: group.root)
  end

  # @param group [Orvant::Fix]
  # @return [Hash{Symbol => Object}] what is kept of it
  def self.facts(group)
    {
      weight: group.weight,
      codes: group.codes,
      action: group.action,
      value: group.value,
      at: group.at,
      place: group.place.to_s,
      owner: group.owner.to_s
    }
  end

  # @return [Boolean] whether it was proven before
  def comes_back? = %w[proven returned].include?(state)

  # @return [Hash{String => String}, nil] what has changed since it was asked, by whom and when; nil where it
  #   is asked
  def unasked
    return unless state == "no_longer_asked"

    findings.unasked.order(:id).last&.unasked ||
      {"what" => "Its links are left out of sweeps", "by" => "", "at" => updated_at.iso8601}
  end

  # @return [Hash{String => Object}]
  def as_document
    {"id" => id, "state" => state, "weight" => weight, "codes" => codes, "action" => action, "value" => value,
     "at" => at, "where" => place, "owner" => owner,
     "findings" => findings_count, "sessions" => sessions, "conversions" => conversions, "revenue" => revenue,
     "shared_sessions" => shared_sessions, "proof" => proof}
  end

  # @return [Hash{String => Object}, nil] the scope of a sweep over just what this fix touches; nil where only
  #   new traffic can prove it
  def proof_scope
    links = findings.filter_map(&:link).uniq
    pages = findings.filter_map(&:page).uniq
    scripts = workspace.rehearsal_scripts.where(name: findings.filter_map(&:rehearsal))
    return if links.empty? && pages.empty? && scripts.empty?

    {"links" => links.map { |link| link.replaced_by_id || link.id }.uniq,
     "pages" => pages.map { |page| page_address(page) }, "rehearsals" => scripts.map(&:id)}
  end

  private

  def page_address(page)
    workspace.page_visits.where(page: page).order(:id).last&.visit&.fetch("address") || "http://#{page}"
  end
end
