# frozen_string_literal: true

# Hosts that must not be asked, as they stand now: long work learns within a second of what an import has
# found or a person has said meanwhile.
class ClosedHosts
  # Seconds for which what was read holds.
  EVERY = 1.0

  # Those of one kind; the guard asks nothing else.
  Kind = Struct.new(:closed, :name) do
    # @param host [String]
    # @return [Boolean]
    def cover?(host) = closed.now.fetch(name).cover?(host)
  end

  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace_id = workspace.id
    @lock = Mutex.new
    @hosts = hosts(workspace)
    @mark = mark
    @read_at = clock
  end

  # @return [Kind] hosts that charge for a click
  def billed = Kind.new(self, :billed)

  # @return [Kind] hosts in click addresses of ads of which nobody has said whether they charge
  def may_charge = Kind.new(self, :may_charge)

  # @return [Hash{Symbol => Orvant::Hosts}]
  def now
    @lock.synchronize do
      read_anew if clock - @read_at >= EVERY
      @hosts
    end
  end

  private

  def clock = Process.clock_gettime(Process::CLOCK_MONOTONIC)

  # In a thread of its own: whoever asks may be a fiber that shares its thread's connection with others.
  def read_anew
    Thread.new {
      ActiveRecord::Base.connection_pool.with_connection do
        latest = mark
        @hosts = hosts(Workspace.find(@workspace_id)) unless latest == @mark
        @mark = latest
      end
    }.join
    @read_at = clock
  end

  def mark
    [
      ConventionVersion.where(workspace_id: @workspace_id).maximum(:version),
      ClickHost.where(workspace_id: @workspace_id).maximum(:id)
    ]
  end

  def hosts(workspace)
    {
      billed: workspace.convention.billed_hosts,
      may_charge: Orvant::Hosts.new(ClickHost.may_charge(workspace).map(&:host))
    }
  end
end
