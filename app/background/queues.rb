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

  # How Delayed::Job keeps a job, instead of as an object.
  module Plain
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
