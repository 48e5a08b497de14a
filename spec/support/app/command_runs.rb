# frozen_string_literal: true

require "open3"
require "tempfile"

# The command line as a person calls it. Of each command the first call begins the program itself, which has
# to load whatever it needs; the others run in a copy of this process, which has loaded that already.
module CommandRuns
  BEGUN = Set.new
  PROGRAM = File.join(ROOT, "bin/orvant")

  # @return [Array(String, String, Integer)] what it prints, what it remarks, and its status
  def orvant(*arguments, stdin_data: "")
    require File.join(ROOT, "app/cli/command_line")
    BEGUN.add?(arguments.first) ? begin_program(arguments, stdin_data) : copy_process(arguments, stdin_data)
  end

  private

  def begin_program(arguments, said)
    output, errors, status = Open3.capture3({"ORVANT_VAR" => SPEC_VAR}, PROGRAM, *arguments, stdin_data: said)
    [output, errors, status.exitstatus]
  end

  def copy_process(arguments, said)
    streams = Array.new(3) { Tempfile.new("orvant-spec") }
    streams.first.tap { |input| input.write(said) }.rewind
    SQLite3::ForkSafety.suppress_warnings!
    pid = Process.fork { call_in_copy(arguments, streams) }
    status = Process.wait2(pid).last.exitstatus
    [*streams.drop(1).map { |one| File.read(one.path) }, status]
  ensure
    streams.each(&:close!)
  end

  # Nothing of what this process does at its end may be done by its copy.
  def call_in_copy(arguments, streams)
    status = 0
    [$stdin, $stdout, $stderr].zip(streams, %w[r w w]) { |stream, file, mode| stream.reopen(file.path, mode) }
    CommandLine.start(arguments)
  rescue SystemExit => error
    status = error.status
  rescue Exception => error # rubocop:disable Lint/RescueException -- as Ruby itself would end
    warn error.full_message
    status = 1
  ensure
    [$stdout, $stderr].each(&:flush)
    exit!(status)
  end
end
