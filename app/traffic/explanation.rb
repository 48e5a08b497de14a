# frozen_string_literal: true

# Why sessions got their channel: the main cause and the channel they belong to, all causes, the links that
# these name, and the roots of the fixes that win the sessions back. All that is explained alike shares one.
class Explanation < ActiveRecord::Base
  # So many are taken away in one statement.
  BATCH = 500

  # The root of a fix that an explanation names.
  class Root < ActiveRecord::Base
    self.table_name = "explanation_roots"
  end

  # A link that an explanation names.
  class NamedLink < ActiveRecord::Base
    self.table_name = "explanation_links"
  end

  belongs_to :workspace
  has_many :root_rows, class_name: "Explanation::Root"
  has_many :named_links, class_name: "Explanation::NamedLink"

  class << self
    # @param workspace [Workspace]
    # @param said [Hash{Symbol => Object}] cause · rightful_channel · causes: Array<Hash> (code, message,
    #   links: ids) · roots
    # @param known [Hash{String => Integer}] ids of the workspace's explanations by digest, which is added to
    # @return [Integer] the id of the one that says just this
    def id_of(workspace, said, known)
      told = said.values_at(:causes, :roots, :cause, :rightful_channel)
      digest = Digest::SHA256.hexdigest(told.to_json)[0, Orvant::Cut::DIGEST]
      known[digest] ||= keep(said, workspace_id: workspace.id, digest: digest)
    end

    # @param workspace [Workspace]
    # @return [Hash{Integer => Array<String>}] roots by explanation
    def roots_of(workspace)
      rows = Root.where(explanation_id: workspace.explanations.select(:id)).order(:id)
        .pluck(:explanation_id, :root)
      rows.group_by(&:first).transform_values { |same| same.map(&:last) }
    end

    # Takes away what nothing is explained by any more.
    def forget_unused(workspace)
      used = workspace.combinations.where.not(explanation_id: nil).distinct
        .pluck(:explanation_id) + workspace.traffic_rows.where.not(explanation_id: nil).distinct
          .pluck(:explanation_id)
      (workspace.explanations.pluck(:id) - used).each_slice(BATCH) { |ids| where(id: ids).delete_all }
    end

    private

    # Roots keep their order.
    def keep(said, **facts)
      id = insert!({**facts, **said.except(:roots)}, returning: :id).rows.first.first
      links = said[:causes].flat_map { |cause| cause["links"].to_a }.uniq
      Root.insert_all(said[:roots].map { |root| {explanation_id: id, root: root} }) if said[:roots].any?
      NamedLink.insert_all(links.map { |link| {explanation_id: id, link_id: link} }) if links.any?
      id
    end
  end
end
