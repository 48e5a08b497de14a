# frozen_string_literal: true

# One address as a visitor would click it. Some facts of its sightings and last sweep are repeated here, so
# that a long list can be filtered and sorted by an index.
class Link < ActiveRecord::Base
  # Links that are changed in one statement.
  BATCH = 1_000
  WEIGHTS = {"" => 0, "untidy" => 1, "skews" => 2, "breaks" => 3}.freeze

  belongs_to :workspace
  belongs_to :replaced_by, class_name: "Link", optional: true
  has_many :sightings
  has_many :link_trails
  has_many :findings
  has_many :labels, class_name: "LinkLabel"

  scope :live, -> { where(retired_at: nil) }
  # What a sweep follows unless told otherwise: excluded links never, paused ads only when asked.
  scope :swept, -> { live.where(excluded_at: nil) }

  # @return [String] the address: what a follower asks for
  def to_s = address

  # @return [LinkTrail, nil] of the last sweep, as its first visitor
  def last_trail = link_trails.where(sweep_id: link_trails.maximum(:sweep_id)).order(:id).first

  # @return [String] the heaviest weight of its current findings, "" where there is none
  def weight_name = WEIGHTS.key(weight)

  # Repeats on many links what their live sightings say: the first one's kind, place and owner, the spend of
  # all, and whether all are paused. A link that is found nowhere any more is retired.
  #
  # @param ids [Array<Integer>]
  def self.refresh_provenance(ids)
    ids.each_slice(BATCH) do |some|
      connection.execute(sanitize_sql([<<~SQL, some]))
        UPDATE links SET kind = first.kind, place = first.place, owner = COALESCE(NULLIF(links.assigned_owner, ''), first.owner), spend = sums.spend,
          status = CASE WHEN sums.live = 0 THEN 'paused' ELSE '' END
        FROM (SELECT link_id, MIN(id) AS id, COALESCE(SUM(spend), 0) AS spend, SUM(CASE WHEN status = 'paused' THEN 0 ELSE 1 END) AS live
              FROM sightings WHERE link_id IN (?) AND ended_by_id IS NULL GROUP BY link_id) AS sums
        JOIN sightings AS first ON first.id = sums.id WHERE links.id = sums.link_id
      SQL
      where(id: some, retired_at: nil).where.not(id: Sighting.live.where(link_id: some).select(:link_id))
        .update_all(retired_at: Time.now.utc)
    end
  end

  # Repeats what the current findings say.
  def refresh_verdict
    weights = findings.standing.pluck(:weight)
    update!(findings_count: weights.size, weight: weights.map { |name| WEIGHTS.fetch(name) }.max || 0)
  end
end
