# frozen_string_literal: true

require "net/http"
require_relative "scratch"

# What a pass of a signpost costs the redirect server, and whether a burst loses any. The server runs as in
# bin/demo, in its own process.
class SignpostsBench
  SECONDS = 10
  WARM = 2_000

  # @param rate [Integer] passes a second of the burst
  def initialize(rate = 1_000)
    @rate = rate
  end

  def call
    Scratch.application
    workspace = Scratch.workspace(1)
    post = workspace.signposts.create!(
      host: "skl.example",
      path: "/seals",
      target: "http://www.skerryline.example/day-pass?utm_source=poster&utm_medium=print&utm_campaign=seal-season",
      pass_on: "keep"
    )
    cost
    serve { |port| burst(port, post) }
  end

  private

  # Within one process, without the network: what the server itself takes for a pass.
  def cost
    server = RedirectServer.new(Settings.var("signposts", ""))
    request = {
      "REQUEST_METHOD" => "GET",
      "HTTP_HOST" => "skl.example",
      "PATH_INFO" => "/seals",
      "QUERY_STRING" => "ref=7",
      "REMOTE_ADDR" => "192.0.2.1",
      "HTTP_USER_AGENT" => "Mozilla/5.0 (iPhone)",
      "HTTP_REFERER" => "http://www.isleguide.example/x"
    }
    times = Array.new(WARM + 10_000) { Scratch.seconds { server.call(request.dup) }.first }.drop(WARM).sort
    puts format(
      "server time of a pass: median %.3f ms, 99 of 100 below %.3f ms",
      times[times.size / 2] * 1_000,
      times[times.size * 99 / 100] * 1_000
    )
    PassReader.new.call
    SignpostPass.delete_all
  end

  def serve
    port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }
    pid = Process.spawn(
      {"ORVANT_VAR" => ENV["ORVANT_VAR"]},
      "bundle",
      "exec",
      "puma",
      "-q",
      "-b",
      "tcp://127.0.0.1:#{port}",
      "-t",
      "4:8",
      "signposts.ru",
      chdir: Scratch::ROOT,
      out: File::NULL,
      err: File::NULL
    )
    sleep 0.1 until Scratch.listening?(port)
    yield port
  ensure
    Process.kill("TERM", pid)
    Process.wait(pid)
  end

  # Visitors come at their times, whether the server keeps up or not.
  def burst(port, post)
    sent = @rate * SECONDS
    began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    waits = Array.new(16) { |lane| Thread.new { visits(port, lane, sent, began) } }.flat_map(&:value).sort
    took = Process.clock_gettime(Process::CLOCK_MONOTONIC) - began
    PassReader.new.call
    puts format(
      "burst: %d passes in %.1f s, %d answered with 302, %d counted, %d lost; answered in %.1f ms at the median, %.1f ms for 99 of 100",
      sent,
      took,
      waits.size,
      post.passes.count,
      sent - post.passes.count,
      waits[waits.size / 2] * 1_000,
      waits[waits.size * 99 / 100] * 1_000
    )
  end

  def visits(port, lane, sent, began)
    Net::HTTP.start("127.0.0.1", port) do |http|
      (lane...sent).step(16).filter_map do |number|
        wait = began + number.to_f / @rate - Process.clock_gettime(Process::CLOCK_MONOTONIC)
        sleep(wait) if wait.positive?
        seconds, answer = Scratch.seconds {
          http.get(
            "/seals?n=#{number}",
            "Host" => "skl.example",
            "User-Agent" => "Mozilla/5.0 (X11; Linux x86_64)"
          )
        }
        seconds if answer.code == "302"
      end
    end
  end
end
