# frozen_string_literal: true

# One row of a report of sessions, with the channel it has and the cause if that is the wrong one.
class TrafficRow < ActiveRecord::Base
  FIELDS = %w[source medium campaign content term landing referrer].freeze

  belongs_to :workspace
  belongs_to :import

  # Those that one fix wins back: by the root of what it mends.
  scope :of_root, ->(root) { where("EXISTS (SELECT 1 FROM json_each(traffic_rows.roots) WHERE value = ?)", root) }
  # Those whose cause names a link.
  scope :caused_by, ->(link_id) { where("cause <> '' AND EXISTS (SELECT 1 FROM json_each(traffic_rows.causes) one, json_each(one.value, '$.links') id WHERE id.value = ?)", link_id) }

  # @return [Orvant::Traffic::Row]
  def row
    Orvant::Traffic::Row.new(date: date, sessions: sessions, conversions: conversions, revenue: revenue,
      **attributes.slice(*FIELDS).transform_keys(&:to_sym))
  end

  # @return [Hash{String => Object}]
  def as_document
    attributes.slice("id", *FIELDS, "sessions", "conversions", "revenue", "channel", "because", "nearest", "cause",
      "causes", "rightful_channel").merge("date" => date.iso8601)
  end
end
