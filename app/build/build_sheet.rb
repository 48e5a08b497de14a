# frozen_string_literal: true

# A grid in which new links are made. Its rows are kept as they were typed; what they come to is computed
# anew.
class BuildSheet < ActiveRecord::Base
  MOST_ROWS = 5_000

  belongs_to :workspace

  scope :kept, -> { where(thrown_away_at: nil) }

  # @param convention [Orvant::Convention]
  # @return [Array<Orvant::Build::Finished>] of the rows in which something stands
  def finished(convention = workspace.convention)
    read = rows.map { |row| Orvant::Build.row(row) }
    landings = FollowedLanding.of(workspace, read)
    read.map { |row| Orvant::Build.finish(row, convention, landings: landings) }.reject(&:blank?)
  end

  # @return [Hash{String => Object}]
  def as_document
    {
      "id" => id,
      "name" => name,
      "count" => rows.size,
      "lock" => lock_version,
      "updated_at" => updated_at.iso8601
    }
  end
end
