# frozen_string_literal: true

require "open3"
require "socket"
require "tmpdir"

# What benchmarks share: a database of their own, the demo's stand-ins in another process, and a clock.
module Scratch
  ROOT = File.expand_path("..", __dir__)

  module_function

  # Loads the application over an empty database that is thrown away afterwards.
  def application
    ENV["ORVANT_VAR"] = Dir.mktmpdir("orvant-bench")
    at_exit { FileUtils.rm_rf(ENV["ORVANT_VAR"]) }
    require File.join(ROOT, "config/environment")
    Database.migrate
  end

  # @param port [Integer] of the stand-ins
  # @return [Workspace] with the demo's convention
  def workspace(port, name = "bench")
    read = ->(folder) { Dir[File.join(ROOT, "demo/data", folder, "*.json")].sort.map { |file| JSON.parse(File.read(file)) } }
    Workspace.create!(name: name,
      title: name.capitalize,
      host_map: {"*.example" => "127.0.0.1:#{port}"},
      signatures: read.call("signatures"),
      expected_tags: [{"tag" => "gullwatch", "account" => "SK-204"}]).tap do |one|
      one.convention_versions.create!(
        version: 1,
        document: JSON.parse(File.read(File.join(ROOT, "demo/data/convention.json")))
      )
    end
  end

  # @param app [String] Rack's file of the stand-ins
  # @return [Integer] the port of the stand-ins, which end with this process
  def world(app = "demo/config.ru")
    port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }
    pid = Process.spawn({"ORVANT_WORLD_STATE" => File.join(Dir.tmpdir, "orvant-bench-#{Process.pid}.json")},
      "bundle",
      "exec",
      "puma",
      "-q",
      "-w",
      "0",
      "-t",
      "8:16",
      "-b",
      "tcp://127.0.0.1:#{port}",
      app,
      chdir: ROOT,
      out: File::NULL,
      err: File::NULL)
    at_exit { Process.kill("TERM", pid) }
    worlds << pid
    sleep 0.1 until listening?(port)
    port
  end

  # @return [Array<Integer>] the processes of the stand-ins
  def worlds = @worlds ||= []

  def listening?(port)
    TCPSocket.open("127.0.0.1", port).close
    true
  rescue SystemCallError
    false
  end

  # @return [Array(Float, Object)] seconds and what the block returned
  def seconds
    started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    result = yield
    [Process.clock_gettime(Process::CLOCK_MONOTONIC) - started, result]
  end

  # @return [Float] the memory that this process holds of its own, in MB; pages of the database that the
  #   system maps for it do not count
  def memory = File.read("/proc/self/status")[/RssAnon:\s+(\d+)/, 1].to_i / 1024.0
end
