# frozen_string_literal: true

# The settings of a workspace by which a sweep judges, as they were: kept once for all sweeps that asked the
# same.
class Question < ActiveRecord::Base
  SETTINGS = %w[signatures expected_tags expected_fields watching].freeze

  belongs_to :workspace

  # @param workspace [Workspace]
  # @return [Question] as the settings are now
  def self.now(workspace)
    settings = workspace.slice(*SETTINGS)
      .merge("rehearsals" => scripts(workspace.rehearsal_scripts.order(:name).map(&:document)))
    workspace_id = workspace.id
    create_with(settings: settings).find_or_create_by!(workspace_id: workspace_id, digest: digest(settings))
  rescue ActiveRecord::RecordNotUnique
    retry
  end

  # @param settings [Hash{String => Object}]
  # @return [String] the same for the same
  def self.digest(settings) = Digest::SHA256.hexdigest(JSON.generate(settings))[0, Orvant::Cut::DIGEST]

  # @param documents [Array<Hash>] of rehearsals
  # @return [Hash{String => Hash}] by name
  def self.scripts(documents) = documents.to_h { |one| [one["name"], one] }

  # @param finding [Finding]
  # @param with [Hash{String => Object}] settings that are to stand in place of its own
  # @return [Hash] what of it the check of the finding reads
  def asked_of(finding, with = {})
    Orvant::Checks::Question.of(finding.code, place_of(finding), settings.merge(with))
  end

  private

  def place_of(finding)
    {"page" => finding.page, "rehearsal" => finding.rehearsal}.compact.merge(finding.place.to_h)
  end
end
