# frozen_string_literal: true

# Hands what is to be looked at to several tabs so that every host keeps its pace: as many looks at once as
# requests are allowed, its pause between their beginnings. What one look loads is asked for as any browser
# asks.
class PacedTasks
  # hosts: those that are visited · visits: how often, one after another · look: a Proc that looks and returns
  # a Proc that stores
  Task = Struct.new(:hosts, :visits, :look)

  # @param tasks [Array<Task>]
  # @param limits [Orvant::Net::Limits]
  # @param clock [#call] seconds, monotonic
  def initialize(tasks, limits, clock: -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) })
    @tasks = tasks.dup
    @limits = limits
    @clock = clock
    @under_way = Hash.new(0)
    @free_at = Hash.new(0)
    @lock = Mutex.new
    @changed = ConditionVariable.new
  end

  # Waits until one may begin.
  #
  # @yieldparam task [Task] its hosts are taken until the block ends
  # @return [Boolean] false when there is none left
  def take
    task = @lock.synchronize { begin_next } or return false
    yield task
    true
  ensure
    @lock.synchronize { finish(task) } if task
  end

  # Leaves what has not begun undone.
  def clear
    @lock.synchronize do
      @tasks.clear
      @changed.broadcast
    end
  end

  private

  def begin_next
    until @tasks.empty?
      index = @tasks.index { |task| task.hosts.all? { |host| free?(host) } }
      return start(@tasks.delete_at(index)) if index

      @changed.wait(@lock, patience)
    end
  end

  def free?(host) = @under_way[host] < @limits.of(host).per_host && @free_at[host] <= @clock.call

  def start(task)
    task.hosts.each do |host|
      @under_way[host] += 1
      pause = @limits.of(host).pause
      @free_at[host] = @clock.call + pause * task.visits if pause.positive?
    end
    task
  end

  def finish(task)
    task.hosts.each { |host| @under_way[host] -= 1 }
    @changed.broadcast
  end

  # @return [Float, nil] seconds until a pause ends; nil where only the end of another visit frees a host
  def patience = @free_at.values.map { |at| at - @clock.call }.select(&:positive?).min
end
