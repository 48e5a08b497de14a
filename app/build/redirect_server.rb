# frozen_string_literal: true

require "cgi"
require "fileutils"
require "securerandom"

# Serves the signposts: a process of its own that knows nothing but their board, and writes down who passed.
# It has no way to the database or to anything else of Orvant.
class RedirectServer
  HEADERS = {"cache-control" => "private, no-store", "x-robots-tag" => "noindex"}.freeze

  # @param folder [String] with the board; passes and the day's salt are written there
  def initialize(folder)
    @folder = folder
    @board = Orvant::Signpost::Board.new(File.join(folder, "board.json"))
    @writing = Mutex.new
    FileUtils.mkdir_p(folder)
  end

  # Rack's interface.
  def call(env)
    unless %w[GET HEAD].include?(env["REQUEST_METHOD"])
      return respond(405, "text/plain", "Signposts are only read.")
    end

    now = Time.now
    post = @board.find(env["HTTP_HOST"] || env["SERVER_NAME"], env["PATH_INFO"])
    return lost(env, post) if post.nil? || post.ended?(now.to_date)

    write(post, env, now) if env["REQUEST_METHOD"] == "GET" && !own?(env)
    [302, HEADERS.merge("location" => post.location(env["QUERY_STRING"]), "content-type" => "text/plain"), []]
  end

  private

  # Orvant's own sweeps are no passes.
  def own?(env) = env["HTTP_USER_AGENT"].to_s.include?(Orvant::Net::Visitor::ORVANT)

  def write(post, env, now)
    line = Orvant::Signpost::Pass.record(signpost: post.id,
      time: now,
      referrer: env["HTTP_REFERER"],
      agent: env["HTTP_USER_AGENT"],
      visitor: Orvant::Signpost::Pass.visitor(salt(now), env["REMOTE_ADDR"], env["HTTP_USER_AGENT"]))
    @writing.synchronize { log(now).write("#{JSON.generate(line)}\n") }
  end

  # A file for each hour, so that read ones can be thrown away.
  def log(now)
    name = now.utc.strftime("passes-%Y%m%d%H.log")
    return @log if @log_name == name

    @log&.close
    @log_name = name
    @log = File.open(File.join(@folder, name), "ab", 0o600).tap { |file| file.sync = true }
  end

  # The salt of a day is thrown away with the day: what was hashed with it can be told from nothing any more.
  def salt(now)
    day = now.utc.strftime("%F")
    return @salt if @day == day

    @writing.synchronize do
      path = File.join(@folder, "salt")
      kept, salt = File.exist?(path) ? File.read(path).split : nil
      File.write(path, "#{day} #{salt = SecureRandom.hex(32)}", perm: 0o600) unless kept == day
      @salt = salt
      @day = day
    end
    @salt
  end

  def lost(env, post)
    path = CGI.escapeHTML(env["PATH_INFO"].to_s.scrub("")[0, Orvant::Cut::QUOTE])
    words =
      if post
        "The signpost #{path} has ended: it leads nowhere any more."
      else
        "There is no signpost #{path} here."
      end
    respond(404, "text/html; charset=utf-8", <<~HTML)
      <!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Nothing here</title>
      <body style="font-family: serif; max-width: 32em; margin: 4em auto; padding: 0 1em"><h1>Nothing here</h1>
      <p>#{words} Perhaps a letter is missing; compare it with what is printed.</p></body></html>
    HTML
  end

  def respond(status, type, body) = [status, HEADERS.merge("content-type" => type), [body]]
end
