# frozen_string_literal: true

# The queue of background work. What stands in it is data: the name of a job and its numbers, of which nothing
# is made but one of JOBS.
#
# What waits for others' servers and what does not stand in queues of their own, so that nobody's file waits
# until a sweep is done.
module Queues
  # Follows links, opens pages, fetches.
  OUTSIDE = "outside"
  # Reads files, explains.
  INSIDE = "inside"
  JOBS = %w[BundleImportJob ClosingJob ExplainJob ImportJob PeriodsJob PrepareJob RereadJob SweepJob].freeze

  # A job that has ended so many workers ends itself: it would end the next one, too.
  MOST_WORKERS = 3

  # How Delayed::Job keeps a job, instead of as an object; and counts the workers that have begun it.
  module Plain
    # @raise [Orvant::Error] where it has ended too many
    def invoke_job
      if attempts < MOST_WORKERS
        update_columns(attempts: attempts + 1)
        return super
      end
      too_many = Orvant::Error.new("the process that worked on it ended #{MOST_WORKERS} times before it was done, as happens where memory runs out. What was kept before stays.")
      hook(:error, too_many)
      raise too_many
    end

    # @param job [Struct] one of JOBS
    def payload_object=(job)
      @payload_object = job
      self.handler = Queues.text(job)
    end

    # @return [Struct]
    # @raise [Delayed::DeserializationError] where it is none of JOBS
    def payload_object = @payload_object ||= Queues.job(handler)

    # @return [String] for logs
    def name = handler.to_s[0, Orvant::Cut::LINE]
  end

  class << self
    # @param job [Struct] one of JOBS
    # @param queue [String]
    # @param at [Time] from when it may begin
    def put(job, queue, at: Time.now.utc) = Delayed::Job.enqueue(job, queue: queue, run_at: at)

    # Puts a job into the queue for work inside, unless one like it waits there.
    def put_once(job) = (put(job, INSIDE) unless standing(job).exists?(locked_at: nil))

    # @return [Boolean] whether a job waits, or is being done
    def hold?(job) = standing(job).exists?

    # What a worker leaves that is told to end is not its job's fault.
    #
    # @param worker [String]
    def forgive(worker)
      Delayed::Job.where(locked_by: worker, failed_at: nil).where("attempts > 0")
        .update_all("attempts = attempts - 1")
    end

    # @return [String] as it stands in the queue
    def text(job) = JSON.generate([job.class.name, *job.to_a])

    # @param text [String]
    # @return [Struct]
    # @raise [Delayed::DeserializationError]
    def job(text)
      name, *numbers = JSON.parse(text)
      return Object.const_get(name).new(*numbers) if JOBS.include?(name) && numbers.all?(Integer)

      raise Delayed::DeserializationError, "There is no such job."
    rescue JSON::ParserError, TypeError
      raise Delayed::DeserializationError, "The queue holds something that is no job."
    end

    private

    def standing(job) = Delayed::Job.where(handler: text(job), failed_at: nil)
  end
end
