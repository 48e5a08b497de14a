# frozen_string_literal: true

# Judges where a signpost is to lead, before it is put up: as a link by the rules, and as a trail by following
# it.
class SignpostJudge
  # @param workspace [Workspace]
  # @param target [String]
  def initialize(workspace, target)
    @workspace = workspace
    @convention = workspace.convention
    @target = Orvant::Address.parse(target)
  end

  # @return [Array<String>] what speaks against it, in sentences; none where nothing does
  def objections
    [
      *trail_objection,
      *Orvant::Checks::Param.judge(@target, @convention, kind: "print")
        .map { |finding| "#{finding.code}: #{finding.message}" }
    ]
  end

  private

  def trail_objection
    trail = FollowOnce.for(@workspace) { |follow| follow.call(@target) }
    return [] if trail.landed? && lost(trail).empty?
    return ["Followed, it loses #{lost(trail).join(", ")} on the way."] if trail.landed?

    ["Followed, it does not land: #{trail.reason}"]
  end

  def lost(trail)
    @target.pairs.map(&:name).select { |name| @convention.carriers.key?(name) } - Orvant::Address.new(trail.final_address).pairs.map(&:name)
  end
end
