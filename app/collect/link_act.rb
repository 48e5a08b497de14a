# frozen_string_literal: true

# One act on many links, with what was before it, so that it can be undone.
class LinkAct < ActiveRecord::Base
  ACTS = %w[exclude include owner label unlabel delete].freeze

  # Labels that are put in one statement.
  AT_ONCE = 5_000

  # Those that change what is asked for.
  ASKED_FOR = %w[exclude include delete].freeze

  include Authored

  belongs_to :workspace

  # @param workspace [Workspace]
  # @param act [String] one of ACTS
  # @param links [ActiveRecord::Relation<Link>]
  # @param value [String] an owner or a label
  # @return [LinkAct] done
  def self.call(workspace, act, links, value: "")
    transaction do
      ids = links.pluck(:id)
      before = state_of(ids, act, value)
      new(workspace: workspace, act: act, value: value, before: before).tap do |one|
        one.send(:apply, ids)
        one.save!
        workspace.tell("workspace.changed") if ASKED_FOR.include?(act)
      end
    end
  end

  # @return [Array<Array>] of each link what the act changes
  def self.state_of(ids, act, value)
    if %w[label unlabel].include?(act)
      return LinkLabel.where(link_id: ids, label: value).pluck(:link_id).to_set
          .then { |with| ids.map { |id| [id, with.include?(id)] } }
    end

    Link.where(id: ids).pluck(:id, :excluded_at, :assigned_owner, :retired_at)
  end
  private_class_method :state_of

  # Puts everything back as it was before.
  def undo
    transaction do
      %w[label unlabel].include?(act) ? undo_label : undo_columns
      Link.refresh_provenance(before.map(&:first)) if act == "owner"
      update!(undone_at: Time.now.utc)
      workspace.tell("workspace.changed") if ASKED_FOR.include?(act)
    end
  end

  # @return [Hash{String => Object}]
  def as_document
    {"id" => id, "act" => act, "value" => value, "links" => before.size, "undone" => !undone_at.nil?}
  end

  private

  def apply(ids)
    links = Link.where(id: ids)
    case act
    when "exclude" then links.update_all(excluded_at: Time.now.utc)
    when "include" then links.update_all(excluded_at: nil)
    when "delete" then links.update_all(retired_at: Time.now.utc)
    when "owner"
      links.update_all(assigned_owner: value)
      Link.refresh_provenance(ids)
    when "label"
      put_labels(ids)
    when "unlabel" then LinkLabel.where(link_id: ids, label: value).delete_all
    end
  end

  def undo_label
    had, had_not = before.partition(&:last).map { |pairs| pairs.map(&:first) }
    LinkLabel.where(link_id: had_not, label: value).delete_all
    put_labels(had)
  end

  # Thousands at once: their values stand in the database already.
  def put_labels(ids)
    label = LinkLabel.connection.quote(value)
    ids.each_slice(AT_ONCE) do |some|
      links = Database.among(Link, some).select("workspace_id, id, #{label}")
      LinkLabel.connection.execute("INSERT INTO link_labels (workspace_id, link_id, label) #{links.to_sql} ON CONFLICT (link_id, label) DO NOTHING")
    end
  end

  def undo_columns
    before.group_by { |_, *state| state }.each do |(excluded, owner, retired), rows|
      Link.where(id: rows.map(&:first))
        .update_all(excluded_at: excluded, assigned_owner: owner, retired_at: retired)
    end
  end
end
