# frozen_string_literal: true

# A page on which one person records a rehearsal. It lives in the process that began it, and is spoken to over
# a socket by whichever process a request has come to; it ends by itself once nobody has worked on it for a
# while.
class RecordingSession
  # Seconds without an act after which it ends.
  IDLE = 600

  # @param workspace [Workspace]
  # @param owner [String] who alone may speak to it
  # @yield when it has ended
  def initialize(workspace, owner, &ended)
    @workspace_id = workspace.id
    @owner = owner
    @ended = ended
    @lock = Monitor.new
    @browser = NetworkPolicy.new(workspace).browser
    @recorder = Orvant::Rehearsal::Recorder.new(@browser, workspace.convention, watching: workspace.watched)
    postpone
  rescue
    @browser&.quit
    raise
  end

  # @param workspace_id [Integer]
  # @param owner [String]
  # @return [Boolean]
  def of?(workspace_id, owner) = @workspace_id == workspace_id && @owner == owner

  # @param wish [Hash] one of: step, a rehearsal's step · at, a place on the picture · scroll, pixels ·
  #   replay, steps from the beginning
  # @param links [Hash{Integer => String}] addresses of the links that steps open
  # @return [Hash{String => Object}] as `state`
  # @raise [Orvant::Error]
  def act(wish, links = {})
    working do
      case wish.keys.first
      when "step" then @recorder.take(wish["step"], links)
      when "at" then @recorder.point(*wish["at"].values_at("x", "y"))
      when "scroll" then @recorder.scroll(wish["scroll"])
      when "replay" then @recorder.replay(wish["replay"], links)
      end
      postpone
      described
    end
  end

  # @return [Hash{String => Object}] address: now shown · ends_at: ISO 8601 · taken: what was done · problem:
  #   why the last act was none · asks: the field that waits for its value · useful: what can be used on the
  #   page
  # @raise [Orvant::Error::Unreachable]
  def state = working { described }

  # @return [String] PNG
  # @raise [Orvant::Error::Unreachable]
  def view = working { @recorder.view }

  # Ends it.
  def finish
    @lock.synchronize do
      return if @finished

      @finished = true
      @timer&.cancel
      @browser.quit
      @ended.call
    end
  end

  private

  def described
    {"address" => @recorder.address,
     "ends_at" => @ends_at.iso8601,
     "taken" => @recorder.taken.map(&:to_h),
     "problem" => @recorder.problem,
     "asks" => @recorder.asks&.to_h,
     "useful" => @recorder.useful.map(&:to_h)}
  end

  def working
    @lock.synchronize do
      if @finished
        raise Orvant::Error::Unreachable, "This recording has ended. Begin again; your steps are kept."
      end

      yield
    end
  rescue Ferrum::Error => error
    raise Orvant::Error::Unreachable,
      "The page cannot be worked on any more: #{error.message[0, Orvant::Cut::FAILURE]} Begin again; your steps are kept."
  end

  def postpone
    @timer&.cancel
    @ends_at = Time.now.utc + IDLE
    @timer = Concurrent::ScheduledTask.execute(IDLE) { finish }
  end
end
