# frozen_string_literal: true

require_relative "remote"

# A sweep on an Orvant that runs, from its beginning to what it found.
class RemoteSweep
  # Seconds between two questions how far it is.
  EVERY = 2
  ENDED = %w[done stopped failed].freeze

  # sweep: as it ended · breaks: Array of the fixes to do that mend something broken
  Ended = Struct.new(:sweep, :breaks, keyword_init: true) do
    # @return [Boolean]
    def sound? = sweep["state"] == "done" && breaks.empty?

    # @return [Hash{String => Object}]
    def document = {"sweep" => sweep, "breaks" => breaks}

    # @return [String]
    def to_s
      unless sweep["state"] == "done"
        return "The sweep ended as #{sweep["state"]}#{": #{sweep["problem"]}" if sweep["problem"]}."
      end

      ["#{Orvant::Words.counted(sweep["findings"], "finding")}; #{breaks.empty? ? "nothing breaks" : "#{Orvant::Words.counted(breaks.size, "fix", "fixes")} of what breaks to do"}.",
        *breaks.map { |fix| "#{fix["where"]} (#{fix["owner"]}): #{fix["action"]}" }].join("\n")
    end
  end

  # @param remote [Remote]
  def initialize(remote)
    @remote = remote
  end

  # @param visitors [Array<String>, nil] as whom; nil is what the workspace says
  # @yieldparam line [String] how far it is, whenever that has changed
  # @return [Ended]
  # @raise [Orvant::Error] where it cannot begin
  def call(visitors = nil)
    sweep = @remote.post("/sweeps", JSON.generate({"visitors" => visitors}.compact))
    told = nil
    until ENDED.include?(sweep["state"])
      sleep EVERY
      sweep = @remote.get("/sweeps/#{sweep["id"]}")
      line = "#{sweep["done"]} of #{sweep["total"]}, #{sweep["findings"]} findings"
      yield line if block_given? && line != told
      told = line
    end
    wait_for_fixes
    Ended.new(
      sweep: sweep,
      breaks: @remote.get("/fixes")["fixes"].select { |fix|
        fix["weight"] == "breaks" &&
              %w[open returned].include?(fix["state"])
      }
    )
  end

  private

  # Fixes follow findings a moment later.
  def wait_for_fixes
    sleep EVERY while @remote.get("")["explained"]["pending"]
  end
end
