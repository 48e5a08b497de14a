# frozen_string_literal: true

# One row of a report of sessions, with the channel it has and the cause if that is the wrong one.
class TrafficRow < ActiveRecord::Base
  FIELDS = %w[source medium campaign content term landing referrer].freeze

  belongs_to :workspace
  belongs_to :import
  belongs_to :explanation, optional: true

  # Those that one fix wins back: by the root of what it mends.
  scope :of_root, ->(root) { where(explanation_id: Explanation::Root.where(root: root).select(:explanation_id)) }
  # Those whose cause names a link.
  scope :caused_by, ->(link_id) { where.not(cause: "").where(explanation_id: Explanation::NamedLink.where(link_id: link_id).select(:explanation_id)) }

  # @return [Orvant::Traffic::Row]
  def row
    Orvant::Traffic::Row.new(date: date, sessions: sessions, conversions: conversions, revenue: revenue,
      **attributes.slice(*FIELDS).transform_keys(&:to_sym))
  end

  # @return [Hash{String => Object}]
  def as_document
    attributes.slice("id", *FIELDS, "sessions", "conversions", "revenue", "channel", "because", "nearest", "cause", "rightful_channel")
      .merge("date" => date.iso8601, "causes" => explanation ? explanation.causes : [])
  end
end
