# frozen_string_literal: true

# A host that stands in click addresses of ads. It stays known when its ads are gone, so that no link buys a
# click there; a person says whether it charges, and that stands in the convention.
class ClickHost < ActiveRecord::Base
  # Where a person's word on it is kept: hosts that charge, and hosts that links may pass over.
  LISTS = {true => "billed_hosts", false => "known_hosts"}.freeze
  SAID = {
    true => "charges for clicks",
    false => "does not charge for clicks",
    nil => "may charge for clicks"
  }.freeze

  belongs_to :workspace

  # @param workspace_id [Integer]
  # @param sightings [Array<Orvant::Inventory::Sighting>]
  # @param now [Time]
  # @return [Array<Hash>] a row for each host that a click on these may ask
  def self.rows(workspace_id, sightings, now)
    found = sightings.flat_map { |sighting|
      Orvant::Inventory::ClickHosts.of(sighting).map { |one| [sighting, one] }
    }.uniq { |_, one| one.host }
    found.map do |sighting, one|
      {workspace_id: workspace_id,
       host: one.host,
       part: one.part,
       network: sighting.facts.to_h["network"].to_s,
       place: sighting.place.to_s,
       example: one.example,
       created_at: now}
    end
  end

  # @return [Insertion] of such rows; hosts that are known already stay as they are
  def self.insertion(workspace_id, sightings, now)
    Insertion.new(self, rows(workspace_id, sightings, now), known_by: %i[workspace_id host])
  end

  # Knows those of all ads that are there, gone ones too.
  #
  # @param workspace_id [Integer]
  # @return [void]
  def self.know(workspace_id)
    ads = Sighting.where(workspace_id: workspace_id, kind: "ad").includes(:link)
    ads.find_in_batches(batch_size: Importing::BATCH) do |some|
      insertion(workspace_id, some.map(&:with_click), Time.now.utc).call
    end
  end

  # @param workspace [Workspace]
  # @return [Array<ClickHost>] those of which nobody has said whether they charge
  def self.may_charge(workspace) = may_charge_of(workspace.convention, workspace.click_hosts.order(:host))

  # @param rules [Orvant::Convention]
  # @param found [Enumerable<ClickHost>]
  # @return [Array<ClickHost>] those of which the rules do not say what they are
  def self.may_charge_of(rules, found)
    lists = [rules.own_hosts, rules.relay_hosts, rules.billed_hosts, rules.known_hosts]
    found.reject { |one| lists.any? { |list| list.cover?(one.host) } }
  end

  # @param workspace [Workspace]
  # @return [Array<Hash>] those of which nobody has said whether they charge, with what is known of them
  def self.documents(workspace)
    found = may_charge(workspace)
    links = workspace.links.live.where(host: found.map(&:host)).group(:host).count
    found.map { |one| one.as_document(links: links.fetch(one.host, 0)) }
  end

  # Saves a version of the convention in which a host charges, does not, or (nil) nobody knows.
  #
  # @param workspace [Workspace]
  # @param host [String]
  # @param charges [Boolean, nil]
  # @param author [String]
  # @return [ConventionVersion]
  def self.decide(workspace, host, charges, author: "")
    version = workspace.convention_version
    document = LISTS.values.reduce(version.document) do |rules, list|
      rules.merge(list => rules[list].to_a.reject { |name| Orvant::Address::HostName.normal(name) == host })
    end
    document = document.merge(LISTS[charges] => document[LISTS[charges]] + [host]) unless charges.nil?
    note = "#{host} #{SAID.fetch(charges)}"
    ConventionVersion.save!(workspace, document, base: version.version, note: note, author: author)
  end

  # @param links [Integer] links on it
  # @return [Hash{String => Object}] what is known of it
  def as_document(links: 0)
    attributes.slice("host", "part", "network", "place", "example")
      .merge("links" => links, "since" => created_at.iso8601)
  end
end
