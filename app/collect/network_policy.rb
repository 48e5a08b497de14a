# frozen_string_literal: true

# How a workspace reaches the network: what may be asked, how fast, and by whom.
class NetworkPolicy
  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
  end

  # @return [Orvant::Net::Guard] of everything that is requested for the workspace
  def guard
    closed = ClosedHosts.new(@workspace)
    Orvant::Net::Guard.new(
      host_map: Orvant::Net::HostMap.new(@workspace.host_map),
      billed: closed.billed,
      may_charge: closed.may_charge,
      reach: Settings.reach
    )
  end

  # @param limits [Orvant::Net::Limits]
  # @return [Orvant::Net::Door]
  def door(limits = @workspace.limits)
    Orvant::Net::Door.new(guard: guard, limits: limits, trusted: Settings["ORVANT_CA_FILE"])
  end

  # @return [Orvant::Browser::Sealed]
  def browser
    Orvant::Browser::Sealed.new(
      guard: guard,
      seal: seal,
      path: Settings["ORVANT_BROWSER"],
      trusted: Settings["ORVANT_CA_FILE"],
      quiet: Settings["ORVANT_QUIET"].to_f,
      contact: @workspace.pace.to_h["contact"],
      visitor: @workspace.visitor,
      options: LeftBehind.mark
    )
  end

  # @return [Orvant::Browser::Seal] what may leave a browser that visits the workspace's pages
  def seal
    convention = @workspace.convention
    Orvant::Browser::Seal.new(
      own: Orvant::Hosts.new(convention.own_hosts.names + convention.relay_hosts.names),
      signatures: @workspace.tag_signatures,
      through: Orvant::Hosts.new(@workspace.senders.through.pluck(:host))
    )
  end
end
