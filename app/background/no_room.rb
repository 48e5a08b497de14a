# frozen_string_literal: true

# The disk is full: what went wrong then looks like many other things, and is said in one sentence.
module NoRoom
  SENTENCE = "There is no room left on Orvant's disk. Make room there, then do this once more; what was kept before stays."
  FULL = [Errno::ENOSPC, Errno::EDQUOT].freeze
  SAID = /database or disk is full|could not extend file|No space left on device/i

  class << self
    # @param error [Exception, nil] whose causes count too: a database that is full takes its transaction back
    #   by itself, and that is what is reported
    # @return [Boolean]
    def behind?(error)
      !error.nil? &&
        (FULL.any? { |kind| error.is_a?(kind) } || error.message.match?(SAID) || behind?(error.cause))
    end

    # @param error [Exception]
    # @param what [String] was broken off by it
    # @return [String] for people
    def sentence(error, what)
      return SENTENCE if behind?(error)
      return "#{what} was broken off: #{error.message[0, Orvant::Cut::FAILURE]}" if error.is_a?(Orvant::Error)

      # Names of classes and of the database are for those who look after Orvant.
      warn "#{what}: #{error.class}: #{error.message}\n  #{error.backtrace.to_a.first(8).join("\n  ")}"
      "#{what} was broken off by a fault inside Orvant; the worker's log says which. What was kept before stays."
    end
  end
end
