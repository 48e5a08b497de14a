# frozen_string_literal: true

# One advertiser: its hosts, convention, links, traffic and fixes.
class Workspace < ActiveRecord::Base
  # Raised where rules are needed and none have been saved yet.
  class NoConvention < StandardError; end

  # The longest name of a tag.
  LONGEST_TAG = 40

  # open · arriving: a bundle is becoming it · closing: it was deleted, and its rows go. Only the first is
  # seen.
  scope :shown, -> { where(state: "open") }

  has_many :convention_versions
  has_many :rehearsal_scripts
  has_many :links
  has_many :sightings
  has_many :imports
  has_many :sweeps
  has_many :page_visits
  has_many :findings
  has_many :fixes
  has_many :combinations
  has_many :traffic_rows
  has_many :traffic_days
  has_many :claims
  has_many :orders
  has_many :touches
  has_many :explanations
  has_many :column_matchings
  has_many :site_pages
  has_many :link_acts
  has_many :waivers
  has_many :build_sheets
  has_many :row_templates
  has_many :signposts
  has_many :proposed_values
  has_many :kept_recordings
  has_many :followed_logs
  has_many :senders
  has_many :click_hosts
  has_many :followed_landings
  has_many :deeds
  has_many :questions

  before_save do
    self.networks = networks.map { |one| one["key"] ? one.merge("key" => Secret.seal(one["key"])) : one }
  end

  # @return [ConventionVersion] the newest
  # @raise [NoConvention] where none has been saved yet
  def convention_version
    latest_version or raise NoConvention, "“#{title}” has no convention yet. Save one under Convention first: nothing can be judged without rules."
  end

  # @return [Orvant::Convention]
  def convention = convention_version.convention

  # @return [Orvant::PersonalData] what is shown of nobody, before there are rules too
  def personal_data = latest_version&.convention&.personal_data || Orvant::PersonalData.usual

  # @return [Hash{String => Hash{String => Integer}}] sessions by role and value
  def sessions_by_value
    (%w[source medium campaign content term] & convention.roles.map(&:name)).to_h do |role|
      [role, combinations.where.not(role => "").group(role).sum(:sessions)]
    end
  end

  # @return [Orvant::Net::Limits] the bounds of everything that is requested for this workspace
  def limits = pace.limits

  # @return [Preferences] how its sites are asked, and how long what was seen is kept
  def pace = Preferences.new(preferences)

  # @return [Orvant::Net::Visitor] as whom its pages are opened where nobody says: the first of its own
  def visitor = Orvant::Net::Visitor.of(pace.to_h["visitors"].first)

  # @return [Array<Orvant::Signal::Signature>]
  def tag_signatures = signatures.map { |document| Orvant::Signal::Signature.new(document) }

  # Says that what is sent to some paths of a host are signals of a tag; one that is not described yet begins
  # so.
  #
  # @param host [String]
  # @param paths [Array<String>]
  # @param name [String] a tag, or its name
  # @param draft [Orvant::Signal::Draft] what its fields may be
  # @return [String] the tag
  # @raise [Orvant::Error::UnusableDocument] where the name is none
  def name_collection_point(host, paths, name, draft)
    wire = paths.map { |path| {"host" => host, "path" => path} }
    known = signatures.find { |one| one["tag"] == name || one["name"].casecmp?(name) }
    added = known ? known.merge("wire" => known["wire"] | wire) : beginning_of_signature(name, wire, draft)
    Orvant::Signal::Signature.read(added)
    update!(signatures: signatures - [known] + [added])
    added["tag"]
  end

  # Takes that back; a tag of which nothing else is known goes.
  def forget_collection_point(host, tag)
    rest = signatures.map do |one|
      (one["tag"] == tag) ? one.merge("wire" => one["wire"].reject { |place| place["host"] == host }) : one
    end
    update!(signatures: rest.reject { |one| one["wire"].empty? })
  end

  # @return [Orvant::Watching] what its pages must do
  def watched = Orvant::Watching.new({"expected_tags" => expected_tags, **watching})

  # @return [Sweep, nil] one that is waiting or running
  def active_sweep = sweeps.active.order(:id).last

  # @return [Boolean] whether a sweep or an import is waiting or running
  def busy? = !active_sweep.nil? || imports.active.exists?

  # Tells later rooms of something (config/subscriptions.rb).
  #
  # @param event [String]
  # @param facts [Hash{Symbol => Object}] beside the workspace
  def tell(event, **facts) = ActiveSupport::Notifications.instrument(event, workspace: self, **facts)

  private

  def latest_version = convention_versions.order(:version).last

  # What its requests hold is as an example lets one think, until somebody says better.
  def beginning_of_signature(name, wire, draft)
    {"tag" => name.downcase.gsub(/[^a-z0-9]+/, "-").gsub(/\A[^a-z]+|-+\z/, "")[0, LONGEST_TAG],
     "name" => name,
     "purpose" => "other",
     "markup" => [],
     "wire" => wire,
     "fields" => {"event" => "event"}.merge(draft.fields), "events" => draft.events}
  end
end
