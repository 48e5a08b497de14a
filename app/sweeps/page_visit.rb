# frozen_string_literal: true

# What was seen on one landing page in one sweep.
class PageVisit < ActiveRecord::Base
  belongs_to :sweep
  belongs_to :workspace

  # @return [String] its recording, packed
  def recording = self.class.recording(id)

  # @return [String]
  def self.recording(id) = Settings.var("recordings", "#{id}.har.gz")
end
