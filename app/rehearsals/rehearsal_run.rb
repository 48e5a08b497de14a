# frozen_string_literal: true

# One run of a rehearsal in one sweep. Its pictures stand in a folder of their own.
class RehearsalRun < ActiveRecord::Base
  belongs_to :sweep
  belongs_to :rehearsal_script

  # @return [Orvant::Rehearsal::Run]
  def core = Orvant::Rehearsal::Run.from_h(run)

  # @return [String] the recording of a run, packed
  def self.recording(sweep_id, script_id) = File.join(pictures(sweep_id, script_id), "run.har.gz")

  # @return [String] the folder of a run's pictures
  def self.pictures(sweep_id, script_id) = Settings.var("pictures", "#{sweep_id}-#{script_id}")
end
