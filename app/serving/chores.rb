# frozen_string_literal: true

# What is due by the minute, whatever else is to be done: one worker at a time is at it, and the others find
# that it is done.
class Chores
  # In seconds.
  EVERY = 60
  # Seconds after which a bundle that was being sent is not coming any more.
  OVER = 24 * 3_600

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

  # One that trips keeps no other from being done, nor the worker from its work.
  def work
    all.each do |chore|
      chore.call
    rescue => error
      raise if NoRoom.behind?(error)

      warn "A chore: #{error.class}: #{error.message}\n  #{error.backtrace.to_a.first(5).join("\n  ")}"
    end
  end

  def all
    [
      # Passes are read by the minute, so that what tells devices is kept no longer than that needs.
      @passes,
      LeftUndone.method(:take_up),
      Thinning.method(:at_night),
      FollowedLog.method(:read_due),
      method(:end_waivers),
      method(:tidy)
    ]
  end

  # What nobody can use any more.
  def tidy
    PreparedFile.tidy
    SignIn.over.delete_all
    Dir[Settings.var("bundles", "received-*")].each do |file|
      FileUtils.rm_f(file) if File.mtime(file) < Time.now - OVER
    rescue SystemCallError
      next # It has gone by itself.
    end
  end

  # Waivers end by the day.
  def end_waivers
    over = Waiver.in_force.where("ends < ?", Date.current).select(:workspace_id)
    Workspace.where(id: over).find_each { |workspace| Explaining.later(workspace) }
  end
end
