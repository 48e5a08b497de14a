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

  # What judging needs of its sightings, where many were read at once (LinkEntries.provide); nil where not.
  attr_accessor :judged_sightings

  # @return [String] the address: what a follower asks for
  def to_s = address

  # @return [LinkTrail, nil] of the last sweep, as its first visitor
  def last_trail = link_trails.where(sweep_id: link_trails.maximum(:sweep_id)).order(:id).first

  # @return [String] the heaviest weight of its current findings, "" where there is none
  def weight_name = WEIGHTS.key(weight)

  # Repeats on many links what their live sightings say, and retires those that are found nowhere any more.
  #
  # @param ids [Array<Integer>]
  def self.refresh_provenance(ids)
    repeat_sightings(ids)
    ids.each_slice(BATCH) do |some|
      found = Sighting.where(link_id: some).where("COALESCE(ended_by_id, 0) = 0")
      where(id: some, retired_at: nil).where.not(id: found.select(:link_id))
        .update_all(retired_at: Time.now.utc)
    end
  end

  # Repeats on many links what their live sightings say: the first one's kind, place and owner, the spend of
  # all, and whether all are paused. Links that say so already are not written: each has a dozen indexes.
  # Asked for what has not ended as such, SQLite would look through all that has not.
  #
  # @param ids [Array<Integer>]
  def self.repeat_sightings(ids)
    ids.each_slice(BATCH) do |some|
      connection.execute(sanitize_sql([<<~SQL, some]))
        UPDATE links SET kind = found.kind, place = found.place, owner = COALESCE(NULLIF(assigned_owner, ''), found.owner), spend = found.spend, status = found.status
        FROM (SELECT sums.link_id, first.kind, first.place, first.owner, sums.spend, CASE WHEN sums.live = 0 THEN 'paused' ELSE '' END AS status
              FROM (SELECT link_id, MIN(id) AS id, COALESCE(SUM(spend), 0) AS spend, SUM(CASE WHEN status = 'paused' THEN 0 ELSE 1 END) AS live
                    FROM sightings WHERE link_id IN (?) AND COALESCE(ended_by_id, 0) = 0 GROUP BY link_id) AS sums
              JOIN sightings AS first ON first.id = sums.id) AS found
        WHERE links.id = found.link_id
          AND (links.kind, links.place, links.owner, links.spend, links.status)
           <> (found.kind, found.place, COALESCE(NULLIF(links.assigned_owner, ''), found.owner), found.spend, found.status)
      SQL
    end
  end

  # Repeats what the current findings say.
  def refresh_verdict
    weights = findings.standing.pluck(:weight)
    update!(findings_count: weights.size, weight: weights.map { |name| WEIGHTS.fetch(name) }.max || 0)
  end
end
