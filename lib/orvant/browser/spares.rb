# frozen_string_literal: true

module Orvant
  module Browser
    # Visits that are begun while another is still under way, because one like it will follow at once: what a
    # browser needs to begin one is mostly waiting.
    class Spares
      # @yieldparam session [Sealed::Session] that nobody has used, to be closed
      def initialize(&close)
        @close = close
        @begun = Hash.new { |begun, visitor| begun[visitor] = [] }
        @lock = Mutex.new
      end

      # @param visitor [Net::Visitor]
      # @yieldreturn [Sealed::Session] a visit of theirs
      def begin(visitor, &start)
        coming = Thread.new(&start)
        coming.report_on_exception = false
        @lock.synchronize { @begun[visitor] << coming }
      end

      # @param visitor [Net::Visitor]
      # @return [Sealed::Session, nil] nil where none is begun, or it could not be
      def take(visitor) = session(@lock.synchronize { @begun[visitor].shift })

      # Closes those that nobody has used.
      def clear
        left = @lock.synchronize { @begun.values.flatten.tap { @begun.clear } }
        left.filter_map { |coming| session(coming) }.each(&@close)
      end

      private

      def session(coming)
        coming&.value
      rescue
        nil # Whoever needs it begins another, and hears what is wrong.
      end
    end
  end
end
