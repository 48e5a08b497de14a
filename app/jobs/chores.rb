# frozen_string_literal: true

# What is due by the minute, whatever else is to be done: one worker at a time is at it, and the others find
# that it is done.
class Chores
  # In seconds.
  EVERY = 60

  def initialize
    @passes = PassReader.new
    @done_at = Time.at(0)
  end

  # Does them where they are due and nobody else is at them.
  #
  # @return [void]
  def call
    return if Time.now - @done_at < EVERY

    @done_at = Time.now
    File.open(Settings.var("locks", "chores"), File::RDWR | File::CREAT) do |lock|
      work if lock.flock(File::LOCK_EX | File::LOCK_NB)
    end
  end

  private

  def work
    # Passes are read by the minute, so that what tells devices is kept no longer than that needs.
    @passes.call
    LeftUndone.take_up
    Thinning.at_night
    FollowedLog.read_due
    end_waivers
  end

  # Waivers end by the day.
  def end_waivers
    over = Waiver.in_force.where("ends < ?", Date.current).select(:workspace_id)
    Workspace.where(id: over).find_each { |workspace| Explaining.later(workspace) }
  end
end
