# frozen_string_literal: true

# The figures of one combination on one day, as one import brought them. Where a day is explained otherwise
# than the combination at its end (a link was not out yet, a burst after a sending), it has an explanation of
# its own.
class TrafficRow < ActiveRecord::Base
  FIELDS = Combination::FIELDS
  MEASURES = Combination::MEASURES
  OF_DAY = "COALESCE(traffic_rows.explanation_id, combinations.explanation_id)"

  belongs_to :workspace
  belongs_to :import
  belongs_to :combination

  # With what its combination says, and why.
  scope :told, -> { joins(:combination).joins("LEFT JOIN explanations ON explanations.id = #{OF_DAY}") }
  # Those that stand in the wrong channel.
  scope :wrong, -> { told.where.not(explanations: {cause: [nil, ""]}) }
  # Those that one fix wins back: by the root of what it mends.
  scope :of_root,
    ->(root) { told.where(explanations: {id: Explanation::Root.where(root: root).select(:explanation_id)}) }
  # Those whose cause names a link.
  scope :caused_by,
    ->(link_id) {
      wrong.where(explanations: {id: Explanation::NamedLink.where(link_id: link_id)
        .select(:explanation_id)})
    }

  # Says, in the transaction that changes rows, that what is summed of their days is to be summed anew.
  #
  # @param workspace [Workspace]
  # @param days [Array<Date>]
  def self.changed(workspace, days)
    [TrafficDay::Stale, CombinationMonth::Stale, ValueDay::Stale, AskedPeriod].each { |sums| sums.mark(workspace, days) }
  end

  # @param rows [Array<TrafficRow>]
  # @return [Array<Hash{String => Object}>] with what is known of them
  def self.documents(rows)
    ActiveRecord::Associations::Preloader.new(records: rows, associations: :combination).call
    told = Explanation.where(id: rows.map(&:told_by).compact.uniq).index_by(&:id)
    rows.map { |row| row.as_document(told[row.told_by]) }
  end

  # @return [Integer, nil] id of what explains it
  def told_by = explanation_id || combination.explanation_id

  # @param explanation [Explanation, nil]
  # @return [Hash{String => Object}]
  def as_document(explanation)
    known = combination.attributes.slice(*FIELDS, "own", "channel", "because", "nearest")
    known.merge(attributes.slice("id", *MEASURES),
      "date" => date.iso8601,
      "cause" => explanation&.cause.to_s,
      "rightful_channel" => explanation&.rightful_channel,
      "causes" => explanation ? explanation.causes : [])
  end
end
