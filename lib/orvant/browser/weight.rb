# frozen_string_literal: true

module Orvant
  module Browser
    # Keeps pages from filling the machine: what each process of a browser holds in memory is looked at as
    # long as the browser runs, and a page that holds too much is ended, and it alone. Where several browsers
    # hold too much together, the heaviest page of all is ended by whoever watches its browser.
    class Weight
      # Bytes of memory that one page may hold, all of a browser together, and all browsers of a family.
      MOST_PAGE = 400 * 1_048_576
      MOST_ALL = 1_000 * 1_048_576
      MOST_FAMILY = 2_000 * 1_048_576
      # The option on a browser's command line whose value its family has in common.
      FAMILY = "orvant-in"
      # Seconds between two looks, and how many of them pass between two at the family.
      EVERY = 0.25
      SELDOM = 4

      # @param pid [Integer] of the browser's first process
      # @param family [String, nil] the value of FAMILY; nil for a browser without one
      def initialize(pid, family = nil)
        @pid = pid
        @family = family && "--#{FAMILY}=#{family}\0"
        @watcher = Thread.new { watch }
      end

      # Looks no more.
      def stop = @watcher.kill

      private

      def watch
        (1..).each do |look|
          sleep EVERY
          held = pages(@pid)
          over = held.keys.select { |pid| held[pid] > MOST_PAGE }
          over = heaviest(held) if over.empty? && held.values.sum + bytes(@pid) > MOST_ALL
          over = heaviest_of_family & held.keys if over.empty? && @family && (look % SELDOM).zero?
          over.each { |pid| Process.kill("KILL", pid) }
        rescue SystemCallError
          next # It has ended by itself.
        end
      end

      def heaviest(held) = [held.key(held.values.max)].compact

      # @return [Array<Integer>] the process of the page that is to end; none while there is room
      def heaviest_of_family
        browsers = family
        held = browsers.map { |pid| pages(pid) }.reduce({}, :merge)
        (held.values.sum + browsers.sum { |pid| bytes(pid) } > MOST_FAMILY) ? heaviest(held) : []
      end

      # @return [Array<Integer>] the first processes of all its browsers
      def family
        Dir["/proc/[0-9]*/cmdline"].select { |file| command(file).include?(@family) }.map { |file| file[/\d+/].to_i }
      end

      # @param browser [Integer] its first process
      # @return [Hash{Integer => Integer}] bytes by process that runs a page
      def pages(browser)
        descendants(browser).select { |pid| command("/proc/#{pid}/cmdline").include?("--type=renderer") }
          .to_h { |pid| [pid, bytes(pid)] }
      end

      def command(file)
        File.read(file)
      rescue SystemCallError
        ""
      end

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
