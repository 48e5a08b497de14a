# frozen_string_literal: true

# Browsers that a killed process has left running. They carry a mark on their command line, so that nobody
# else's browser is ended.
module LeftBehind
  # The name of a process that has none: its browsers are its own.
  NAMELESS = "process-#{Process.pid}"

  class << self
    # @return [String] of this process; the next of its name ends what it has left
    attr_accessor :owner

    # @return [Hash{String => String}] the mark, and what all browsers of this installation have in common, as
    #   options of the browser
    def mark(of = owner || NAMELESS)
      installation = File.realpath(Settings["ORVANT_VAR"])
      {"orvant-of" => "#{of}@#{installation}", Orvant::Browser::Weight::FAMILY => installation}
    end

    # Ends every browser that carries the mark of a process's name and this installation.
    #
    # @param of [String] this process, or one that is dead
    # @return [Boolean] true
    def end_browsers(of = owner || NAMELESS)
      Dir["/proc/[0-9]*/cmdline"].each { |file| end_marked(file, mark(of).fetch("orvant-of")) }
      true
    end

    private

    def end_marked(file, mark)
      Process.kill("KILL", file[/\d+/].to_i) if File.read(file).include?("--orvant-of=#{mark}\0")
    rescue SystemCallError
      nil # It has ended by itself.
    end
  end
end
