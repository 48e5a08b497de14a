# frozen_string_literal: true

# Browsers that a killed worker has left running. They carry a mark on their command line, so that nobody else's browser is ended.
module LeftBehind
  class << self
    # @return [Hash{String => String}] the mark, as an option of the browser
    def mark = {"orvant-worker" => File.realpath(Settings["ORVANT_VAR"])}

    # Ends every browser that carries the mark of this installation.
    # @return [Boolean] true
    def end_browsers
      Dir["/proc/[0-9]*/cmdline"].each { |file| end_marked(file) }
      true
    end

    private

    def end_marked(file)
      Process.kill("KILL", file[/\d+/].to_i) if File.read(file).include?("--orvant-worker=#{mark.values.first}\0")
    rescue SystemCallError
      nil # It has ended by itself.
    end
  end
end
