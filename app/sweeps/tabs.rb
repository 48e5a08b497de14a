# frozen_string_literal: true

# Does the work of a sweep in several tabs of one browser. Threads look, the caller's thread stores: the
# database has one writer.
class Tabs
  # @return [Integer] the number of the tab in which the calling thread looks
  def self.number = Thread.current[:tab]

  # @param sweep [Sweep]
  # @param share [Numeric] of the tabs that watch pages at once: a glance waits more than it works
  def initialize(sweep, share: 1)
    @sweep = sweep
    @most = (Settings["ORVANT_TABS"].to_i * share).floor
    @limits = sweep.workspace.limits
  end

  # Returns when all is done, or the sweep is being stopped; what fails in a tab is raised here, once the
  # others have come to their end.
  #
  # @param tasks [Array<PacedTasks::Task>]
  def work(tasks)
    todo = PacedTasks.new(tasks, @limits)
    seen = Queue.new
    tabs = Array.new([@most, tasks.size].min) { |number| Thread.new { look(number, todo, seen) } }
    closer = Thread.new { close_after(tabs, seen) }
    while (storing = seen.pop)
      storing.call
      todo.clear if @sweep.stopping?
    end
    closer.join
    tabs.each(&:join)
  end

  private

  # However a tab ends, what the others have seen is taken, and nobody waits for more.
  def close_after(tabs, seen)
    sleep 0.05 while tabs.any?(&:alive?)
    seen.close
  end

  def look(number, todo, seen)
    Thread.current[:tab] = number
    nil while todo.take { |task| seen << task.look.call }
  end
end
