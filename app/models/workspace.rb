# frozen_string_literal: true

# One advertiser: its hosts, convention, links, traffic and fixes.
class Workspace < ActiveRecord::Base
  has_many :convention_versions
  has_many :rehearsal_scripts
  has_many :links
  has_many :sightings
  has_many :imports
  has_many :sweeps
  has_many :page_visits
  has_many :findings
  has_many :fixes
  has_many :traffic_rows

  # @return [ConventionVersion] the newest
  def convention_version = convention_versions.order(:version).last

  # @return [Orvant::Convention]
  def convention = convention_version.convention

  # @return [Orvant::Net::Guard] the policy for everything that is requested for this workspace
  def guard
    Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new(host_map), billed: convention.billed_hosts)
  end

  # @return [Array<Orvant::Signal::Signature>]
  def tag_signatures = signatures.map { |document| Orvant::Signal::Signature.new(document) }

  # @return [Orvant::Browser::Sealed]
  def browser
    Orvant::Browser::Sealed.new(guard: guard, signatures: tag_signatures, path: Settings["ORVANT_BROWSER"],
      options: LeftBehind.mark)
  end

  # @return [Sweep, nil] one that is waiting or running
  def active_sweep = sweeps.where(state: Sweep::ACTIVE).order(:id).last
end
