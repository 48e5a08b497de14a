# frozen_string_literal: true

require "digest"

# The trail of one link in one sweep.
class LinkTrail < ActiveRecord::Base
  belongs_to :sweep
  belongs_to :link

  # @param trail [Orvant::Trail]
  # @param convention [Orvant::Convention] tells pages apart
  # @param created_at [Time] the same for all rows of a batch, so that it is written out once
  # @return [Hash] a row to insert
  def self.row(trail, convention, sweep_id:, link_id:, judged_address: nil, created_at: Time.now.utc)
    {sweep_id: sweep_id,
     link_id: link_id,
     visitor: trail.visitor,
     outcome: trail.outcome,
     status: trail.status,
     final_address: trail.final_address,
     landing_page: convention.page_of(Orvant::Address.of(trail.final_address)),
     judged_address: judged_address,
     reason: trail.reason,
     engine: trail.engine,
     hops: trail.hops.map(&:to_h),
     landing: trail.landing,
     ms: trail.ms,
     shape: shape(trail),
     created_at: created_at,
     look: trail.seen.by,
     looked: trail.seen.to_h,
     look_key: Orvant::Trail::Looks.key(trail, convention),
     carried: Orvant::Trail::Looks.carried(trail.unseen, acts: trail.acts),
     attempts: trail.attempts.to_a}
  end

  # @param trail [Orvant::Trail]
  # @return [String] the same for two trails that a person would call the same
  def self.shape(trail)
    Digest::SHA256.hexdigest([
      trail.outcome,
      trail.status,
      *trail.hops.flat_map { |hop| [hop.address, hop.how] },
      trail.final_address
    ].join("\n"))[0, Orvant::Cut::DIGEST]
  end

  # @return [Orvant::Trail] how it ended and who looked; of the way nothing
  def ending = Orvant::Trail.new(outcome: outcome, look: Orvant::Trail::Look.new(by: look))

  # @param address [String] of its link
  # @return [Orvant::Trail]
  def trail(address = link.address) = Orvant::Trail.from_h(as_document(address))

  # @param address [String] of its link
  # @return [Hash{String => Object}] in the shape of the command line
  def as_document(address = link.address)
    {"address" => address, "outcome" => outcome, "final_address" => final_address, "status" => status,
     "reason" => reason,
     "engine" => engine,
     "visitor" => visitor,
     "hops" => hops,
     "landing" => landing,
     "attempts" => attempts.to_a,
     "look" => looked || {"by" => look},
     "ms" => ms,
     "sweep_id" => sweep_id,
     "followed_at" => created_at.iso8601}
  end
end
