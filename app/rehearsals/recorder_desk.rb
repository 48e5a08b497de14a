# frozen_string_literal: true

require "drb"
require "drb/unix"

# Where recordings are begun and found again. Each has a socket beside the database, which only this
# installation's owner can reach.
class RecorderDesk
  # So many browsers may stand open for people at once.
  MOST = 4
  NAME = /\A[0-9a-f]{16}\z/

  # @param workspace [Workspace]
  # @param caller [Caller]
  def initialize(workspace, caller)
    @workspace = workspace
    @owner = caller.mark
  end

  # Begins a recording; an earlier one of the same person here ends.
  #
  # @return [String] its id
  # @raise [Orvant::Error] where too many are open, or no browser starts
  def begin
    standing = self.class.standing
    standing.select { |id| mine?(id) }.each { |id| finish(id) }
    if self.class.standing.size >= MOST
      raise Orvant::Error,
        "#{MOST} recordings are open already: end one, or wait; each ends by itself after #{RecordingSession::IDLE / 60} minutes."
    end

    SecureRandom.hex(8).tap { |id| serve(id) }
  end

  # @param id [String]
  # @return [RecordingSession]
  # @raise [ActiveRecord::RecordNotFound] where it has ended, or is another's
  def find(id)
    return session(id) if NAME.match?(id) && File.exist?(self.class.socket(id)) && mine?(id)

    raise ActiveRecord::RecordNotFound
  end

  # Ends one.
  #
  # @param id [String]
  # @raise [ActiveRecord::RecordNotFound]
  def finish(id)
    find(id).finish
  end

  # @param wish [Hash] of an act
  # @return [Hash{Integer => String}] addresses of the links that its steps open
  def links(wish)
    ids = [wish["step"], *wish["replay"]].compact.filter_map do |step|
      step["open"]["link"] if step["open"].is_a?(Hash)
    end
    @workspace.links.live.where(id: ids).pluck(:id, :address).to_h
  end

  # @return [Array<String>] ids of those that answer; what a dead process has left is swept away
  def self.standing
    Dir[File.join(folder, "*.sock")].filter_map do |path|
      next File.basename(path, ".sock") if alive?(path)

      FileUtils.rm_f(path)
      nil
    end
  end

  def self.folder = Settings.var("recorders", "").tap { |path| FileUtils.mkdir_p(path, mode: 0o700) }

  def self.socket(id) = File.join(folder, "#{id}.sock")

  def self.uri(id) = "drbunix:#{socket(id)}"

  def self.alive?(path)
    UNIXSocket.new(path).close
    true
  rescue SystemCallError
    false
  end
  private_class_method :alive?

  private

  def serve(id)
    server = nil
    session = RecordingSession.new(@workspace, @owner) { stop(server) if server }
    server = DRb::DRbServer.new(self.class.uri(id), session)
  end

  # Told over one of its own connections, a server would leave that one open with nobody behind it, and
  # whoever asked over it again would wait for ever: told from elsewhere, its socket is gone when this
  # returns.
  def stop(server) = Thread.new { server.stop_service }.join

  def session(id) = DRbObject.new_with_uri(self.class.uri(id))

  def mine?(id)
    session(id).of?(@workspace.id, @owner)
  rescue DRb::DRbConnError
    false
  end
end
