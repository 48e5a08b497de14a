# frozen_string_literal: true

# Why sessions got their channel: the causes, the links that these name, and the roots of the fixes that win the sessions back. All rows
# that are explained alike share one.
class Explanation < ActiveRecord::Base
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

  # @param workspace [Workspace]
  # @param causes [Array<Hash{String => Object}>] code, message, links: ids
  # @param roots [Array<String>]
  # @return [Integer, nil] the id of the one that says just this; nil where there is nothing to say
  def self.id_of(workspace, causes, roots)
    return if causes.empty? && roots.empty?

    digest = Digest::SHA256.hexdigest([causes, roots].to_json)[0, 32]
    where(workspace: workspace, digest: digest).pick(:id) || create!(workspace: workspace, digest: digest, causes: causes).tap { |one| one.name(roots) }.id
  end

  # @param workspace [Workspace]
  # @return [Hash{Integer => Array<String>}] roots by explanation
  def self.roots_of(workspace)
    rows = Root.where(explanation_id: workspace.explanations.select(:id)).order(:id).pluck(:explanation_id, :root)
    rows.group_by(&:first).transform_values { |same| same.map(&:last) }
  end

  # Takes away what no row is explained by any more.
  def self.forget_unused(workspace)
    where(workspace: workspace).where("NOT EXISTS (SELECT 1 FROM traffic_rows WHERE traffic_rows.explanation_id = explanations.id)").delete_all
  end

  # @param roots [Array<String>] in their order
  def name(roots)
    links = causes.flat_map { |cause| cause["links"].to_a }.uniq
    Root.insert_all(roots.map { |root| {explanation_id: id, root: root} }) if roots.any?
    NamedLink.insert_all(links.map { |link| {explanation_id: id, link_id: link} }) if links.any?
  end
end
