# frozen_string_literal: true

# The last sign of life of each worker.
class Heartbeat < ActiveRecord::Base
  # A worker tells of itself so often, and is taken for dead after so long, in seconds.
  EVERY = 4
  DEAD = 20

  class << self
    # Tells of a worker until its process ends.
    #
    # @param worker [String]
    # @return [Thread]
    def begin(worker)
      beat(worker)
      Thread.new do
        loop do
          sleep EVERY
          ActiveRecord::Base.connection_pool.with_connection { beat(worker) }
        rescue ActiveRecord::ActiveRecordError => error
          warn "The worker could not tell that it lives: #{error.message[0, Orvant::Cut::FAILURE]}"
        end
      end
    end

    # @return [Integer, nil] seconds since any worker told of itself; nil where none ever did
    def age = maximum(:at)&.then { |at| (Time.now.utc - at).round }

    # Gives back to the queue what dead workers had taken, and ends the browsers that they left.
    def bury_the_dead
      late = Time.now.utc - DEAD
      where("at < ?", late).find_each do |dead|
        give_back(Delayed::Job.where(locked_by: dead.worker))
        LeftBehind.end_browsers(dead.worker)
        dead.delete
      end
      # Workers of a version that told of nothing.
      give_back(Delayed::Job.where.not(locked_by: [nil, *pluck(:worker)]).where("locked_at < ?", late))
    end

    private

    def give_back(jobs) = jobs.update_all(locked_at: nil, locked_by: nil)

    def beat(worker)
      upsert(
        {worker: worker, at: Time.now.utc},
        unique_by: :worker,
        update_only: %i[at],
        record_timestamps: false
      )
    end
  end
end
