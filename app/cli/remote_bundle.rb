# frozen_string_literal: true

require_relative "remote"

# A whole workspace of an Orvant that runs, as one archive.
class RemoteBundle
  # Seconds between two questions whether it is written.
  EVERY = 0.5
  # How long it may take, in seconds.
  PATIENCE = 3_600

  # @param remote [Remote]
  def initialize(remote)
    @remote = remote
  end

  # @param file [IO] is written to as it comes
  # @raise [Orvant::Error] where it cannot be had
  def call(file)
    asked = @remote.post("/bundle", "{}")
    deadline = now + PATIENCE
    until %w[done failed].include?(asked["state"])
      raise Orvant::Error, "The archive was not written within #{PATIENCE / 60} minutes: is a worker running there?" if now >= deadline

      sleep EVERY
      asked = @remote.get("/bundle")
    end
    raise Orvant::Error, asked["problem"] if asked["state"] == "failed"

    @remote.download("/bundle.zip", file)
  end

  private

  def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
end
