# frozen_string_literal: true

# One piece of work that removes all findings with one root.
class Fix < ActiveRecord::Base
  # open: to be done · proven: the checks that failed were run again and passed · returned: it was proven, and is there again.
  STATES = %w[open proven returned].freeze

  belongs_to :workspace
  has_many :findings
  has_many :sweeps

  # @return [Hash{String => Object}]
  def as_document
    {"id" => id, "state" => state, "weight" => weight, "codes" => codes, "action" => action, "value" => value,
     "at" => at, "where" => place, "owner" => owner,
     "findings" => findings_count, "sessions" => sessions, "conversions" => conversions, "revenue" => revenue,
     "shared_sessions" => shared_sessions, "proof" => proof}
  end

  # @return [Hash{String => Object}, nil] the scope of a sweep over just what this fix touches; nil where only new traffic can prove it
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
