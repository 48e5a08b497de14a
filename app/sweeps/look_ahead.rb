# frozen_string_literal: true

# Has pages looked at in a process of its own while links are still being followed: one waits for servers, the
# other for the browser, and neither for the other. Whatever it leaves is left to the look phase.
class LookAhead
  # Sweeps of fewer links are followed before a process has begun.
  LEAST = 500
  # What it is told once all links are followed.
  FOLLOWED = "followed\n"

  # @param sweep [Sweep]
  # @yield follows its links
  def self.beside(sweep, &)
    many = sweep.chosen_links.limit(1).offset(LEAST - 1).any?
    many ? new(sweep).beside(&) : yield
  end

  # @param sweep [Sweep]
  def initialize(sweep)
    @sweep = sweep
  end

  # @yield follows its links
  # @return [void] when it has looked at what it could
  def beside
    begin_process
    begin
      yield
      say_followed unless @sweep.stopping? # Then what is under way there is left, too.
    ensure
      @words.close
      Process.wait(@process)
    end
  end

  private

  # A copy of this one, which has loaded all already. None of the two may use what the other has open.
  def begin_process
    ending, @words = IO.pipe
    ActiveRecord::Base.connection_handler.clear_all_connections!
    @process = Process.fork { look(ending) }
  ensure
    ending&.close
  end

  # In the other process. It leaves nothing to do at its end: that is its origin's affair.
  def look(ending)
    @words.close
    %w[INT TERM].each { |signal| trap(signal) { leave } }
    followed = Concurrent::Event.new
    Thread.new { (ending.gets == FOLLOWED) ? followed.set : leave }
    LookPhase.new(Sweep.find(@sweep.id)).ahead(followed)
    exit!(true)
  rescue => error
    warn "Looking ahead ended early: #{error.message[0, Orvant::Cut::FAILURE]}"
    exit!(false)
  end

  # Where the origin has died, or both are told to end.
  def leave
    LeftBehind.end_browsers
  ensure
    exit!(false)
  end

  def say_followed
    @sweep.update_columns(phase: "looks")
    @words.write(FOLLOWED)
  rescue Errno::EPIPE
    nil # It has failed, and said why.
  end
end
