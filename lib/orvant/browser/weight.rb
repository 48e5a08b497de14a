# frozen_string_literal: true

module Orvant
  module Browser
    # Keeps pages from filling the machine: what each process of a browser holds in memory is looked at as
    # long as the browser runs, and a page that holds too much is ended, and it alone.
    class Weight
      # Bytes of memory that one page may hold, and all of a browser together.
      MOST_PAGE = 400 * 1_048_576
      MOST_ALL = 1_000 * 1_048_576
      # Seconds between two looks.
      EVERY = 0.25

      # @param pid [Integer] of the browser's first process
      def initialize(pid)
        @pid = pid
        @watcher = Thread.new { watch }
      end

      # Looks no more.
      def stop = @watcher.kill

      private

      def watch
        loop do
          sleep EVERY
          held = pages
          over = held.select { |_, bytes| bytes > MOST_PAGE }
          over = [held.max_by(&:last)].compact if over.empty? && held.values.sum + own > MOST_ALL
          over.each { |pid, _| Process.kill("KILL", pid) }
        rescue SystemCallError
          next # It has ended by itself.
        end
      end

      # @return [Hash{Integer => Integer}] bytes by process that runs a page
      def pages
        descendants(@pid).select { |pid| File.read("/proc/#{pid}/cmdline").include?("--type=renderer") }
          .to_h { |pid| [pid, bytes(pid)] }
      rescue SystemCallError
        {}
      end

      def own = bytes(@pid)

      def descendants(pid)
        children = File.read("/proc/#{pid}/task/#{pid}/children").split.map(&:to_i)
        children + children.flat_map { |child| descendants(child) }
      rescue SystemCallError
        []
      end

      # Of its own, and shared with nobody but those to whom it shows what it holds.
      def bytes(pid)
        status = File.read("/proc/#{pid}/status")
        (status[/^RssAnon:\s+(\d+)/, 1].to_i + status[/^RssShmem:\s+(\d+)/, 1].to_i) * 1_024
      rescue SystemCallError
        0
      end
    end
  end
end
