# frozen_string_literal: true

# One pass over chosen links, pages and rehearsals. Its rows are its progress: what is stored is never done
# again.
class Sweep < ActiveRecord::Base
  ACTIVE = %w[waiting running stopping].freeze
  # What its scope keeps beside what was asked for: the newest link that belongs to it, and how many do.
  CHOSEN = %w[last_link chosen].freeze
  # Seconds for which it waits before it looks again whether it may begin.
  PUT_OFF = 1

  include Authored

  belongs_to :workspace
  belongs_to :fix, optional: true
  belongs_to :convention_version
  # The settings by which it judges pages and rehearsals; sweeps of earlier versions have none.
  belongs_to :question, optional: true
  has_many :link_trails
  has_many :page_visits
  has_many :rehearsal_runs
  has_many :findings

  scope :active, -> { where(state: ACTIVE) }
  # Those over everything that have come to their end.
  scope :finished_whole, -> { where(state: "done", whole: true) }

  # @param workspace [Workspace]
  # @param scope [Hash] `links`, `rehearsals`: "all" or a list of ids; `pages`: "landing" (those the links
  #   reach) or a list of addresses; `visitors`: as whom links are followed, the first of whom counts;
  #   `paused`: whether paused ads are followed too
  # @return [Sweep] waiting for the worker
  def self.begin!(workspace, scope: {"links" => "all", "pages" => "landing", "rehearsals" => "all"}, fix: nil)
    transaction do
      sweep = create!(
        workspace: workspace,
        fix: fix,
        scope: scope,
        whole: scope["links"] == "all",
        convention_version: workspace.convention_version
      )
      sweep.update!(total: sweep.chosen_links.count + sweep.chosen_scripts.count)
      sweep.queue
      sweep
    end
  end

  # Hands it to the worker.
  #
  # @param at [Time] from when it may begin
  def queue(at: Time.now.utc) = Queues.put(SweepJob.new(id), Queues::OUTSIDE, at: at)

  # Has it sweep what is in the inventory now, where that was not chosen before.
  def choose
    return if scope.key?("last_link")

    self.scope = scope.merge("last_link" => workspace.links.maximum(:id).to_i)
    count = chosen_links.count
    update!(scope: scope.merge("chosen" => count), total: count + chosen_scripts.count)
  end

  # Lets what is being done to the inventory come to its end first.
  def put_off = queue(at: Time.now.utc + PUT_OFF)

  # @return [ActiveRecord::Relation<Link>] what arrives while it runs is left to the next
  def chosen_links
    ids = scope["links"]
    return workspace.links.where(id: ids) unless ids == "all"

    links = workspace.links.swept
    links = links.where("links.id <= ?", scope["last_link"]) if scope["last_link"]
    scope["paused"] ? links : links.where(status: "")
  end

  # @return [Array<Orvant::Net::Visitor>]
  def visitors = scope.fetch("visitors", %w[desktop]).map { |name| Orvant::Net::Visitor.of(name) }

  # @return [ActiveRecord::Relation<RehearsalScript>]
  def chosen_scripts
    ids = scope["rehearsals"]
    (ids == "all") ? workspace.rehearsal_scripts : workspace.rehearsal_scripts.where(id: ids)
  end

  # Asks the worker to end after what is in flight.
  def stop = self.class.where(id: id, state: %w[waiting running]).update_all(state: "stopping")

  # Goes on where a stopped sweep ended.
  def resume
    transaction do
      if self.class.where(id: id, state: %w[stopped failed]).update_all(state: "waiting", problem: nil) == 1
        queue
      end
    end
  end

  # @return [Boolean] whether a person has asked for the end, as stored now
  def stopping? = self.class.where(id: id).pick(:state) == "stopping"

  # @return [Hash{String => Object}]
  def as_document
    {"id" => id,
     "state" => state,
     "phase" => phase,
     "done" => done,
     "total" => total,
     "findings" => findings_count,
     "seconds_left" => seconds_left, "problem" => problem, "fix_id" => fix_id,
     "whole" => whole,
     "scope" => scope.except(*CHOSEN),
     "convention_version" => convention_version.version,
     "started_at" => started_at&.iso8601,
     "finished_at" => finished_at&.iso8601, "created_at" => created_at.iso8601}
  end

  private

  # Pages and rehearsals take seconds where a link takes milliseconds, so the rest is reckoned by kind.
  def seconds_left
    return unless state == "running" && started_at

    links = (phase == "trails") ? [scope["chosen"].to_i - (done - looks), 0].max : 0
    rehearsals = chosen_scripts.count - rehearsal_runs.count
    pages = [total - done - links - rehearsals, 0].max
    tabs = Settings["ORVANT_TABS"].to_i
    (links * 0.01 + (pages * 2.8 + rehearsals * 8.0) / tabs).ceil
  end
end
