# frozen_string_literal: true

# Has pages looked at in a process of its own while links are still being followed: one waits for servers, the
# other for the browser, and neither for the other. Whatever it leaves is left to the look phase.
class LookAhead
  # Sweeps of fewer links are followed before a process has begun.
  LEAST = 500
  # What it is told once all links are followed.
  FOLLOWED = "followed\n"
  PROGRAM = File.expand_path("../../bin/look-ahead", __dir__)

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

  def begin_process
    ending, @words = IO.pipe
    owner = LeftBehind.owner || LeftBehind::NAMELESS
    @process = Process.spawn({"ORVANT_WORKER" => owner}, RbConfig.ruby, PROGRAM, @sweep.id.to_s, in: ending, out: :err)
  ensure
    ending&.close
  end

  def say_followed
    @sweep.update_columns(phase: "looks")
    @words.write(FOLLOWED)
  rescue Errno::EPIPE
    nil # It has failed, and said why.
  end
end
