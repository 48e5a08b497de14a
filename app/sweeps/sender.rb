# frozen_string_literal: true

# A third host that pages wanted to send something to, and what a person has decided about it.
class Sender < ActiveRecord::Base
  # "": not known yet · tag: its requests are signals of a tag · through: pages need it, so what they send
  # reaches it · held: it stays held.
  DECISIONS = ["", "tag", "through", "held"].freeze
  MOST_PAGES = 50
  MOST_PATHS = 20

  belongs_to :workspace

  scope :through, -> { where(decision: "through") }
  scope :unknown, -> { where(decision: "") }

  # Keeps what a visit has held.
  #
  # @param workspace [Workspace]
  # @param held [Array<Orvant::Browser::Held>]
  def self.meet(workspace, held)
    held.group_by(&:host).each do |host, same|
      sender = workspace.senders.find_or_initialize_by(host: host)
      sender.take(same)
      sender.save!
    end
  end

  # @param held [Array<Orvant::Browser::Held>] all of this host, at least one
  def take(held)
    pages = held.filter_map { |one| one.page && Orvant::Address.new(one.page).page }
    assign_attributes(example: held.last.address,
      body: held.last.body,
      ways: ways.to_a | held.map(&:way),
      pages: (pages | self.pages.to_a).first(MOST_PAGES),
      paths: (paths.to_a | held.map { |one| Orvant::Address.new(one.address).plain_path }).first(MOST_PATHS),
      times: times + held.size, seen_at: Time.now.utc)
  end

  # @param decision [String] one of DECISIONS
  # @param tag [String, nil] whose collection point it is: a tag that is described, or the name of one that is
  #   not yet
  # @param author [String]
  # @raise [Orvant::Error::UnusableDocument] where a tag is to be named and is not
  def decide(decision, tag: nil, author: "")
    transaction do
      workspace.forget_collection_point(host, self.tag) if self.tag
      named = workspace.name_collection_point(host, paths, tag.to_s.strip, draft) if decision == "tag"
      update!(decision: decision, tag: named, decided_by: author, decided_at: Time.now.utc)
    end
  end

  # @return [Orvant::Signal::Draft] what its fields may be, by the example
  def draft
    page = pages.to_a.first&.then { |text| Orvant::Address.new("http://#{text}") }
    Orvant::Signal::Draft.new(
      Orvant::Address.new(example),
      body: body,
      page: page_sent_from || page,
      roles: landing_values
    )
  end

  # @return [Hash{String => Object}]
  def as_document
    attributes.slice(
      "id",
      "host",
      "decision",
      "tag",
      "decided_by",
      "example",
      "body",
      "ways",
      "pages",
      "paths",
      "times"
    )
      .merge("seen_at" => seen_at.iso8601,
        "proposed" => draft.proposals.map(&:to_h),
        "passed" => pages.to_a - workspace.page_visits.where(page: pages.to_a).distinct.pluck(:page))
  end

  private

  # The page with its parameters, where a visit to it is kept.
  def page_sent_from
    @page_sent_from ||= workspace.page_visits.where(page: pages.to_a).order(:id).last&.visit
      &.fetch("final_address")
      &.then { |text| Orvant::Address.new(text) }
  end

  # What that page's address says of the visit.
  def landing_values = page_sent_from ? workspace.convention.values_in(page_sent_from) : {}
end
