# frozen_string_literal: true

# Keeps the signposts of a workspace in its inventory: each is a short link with the target that it is meant
# to have, so that it is swept as any other.
class SignpostInventory
  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
  end

  # Adds what is new, changes what was turned, ends what was taken down.
  def refresh
    items = @workspace.signposts.standing.order(:id).map { |post| sighting(post) }
    LinkImporting.new(
      @workspace,
      Orvant::Inventory::Collected.new(items: items),
      filename: "Signposts",
      kind: "signposts",
      source: "Signposts"
    ).call
  end

  private

  def sighting(post)
    Orvant::Inventory::Sighting.new(address: Orvant::Address.parse(post.address),
      kind: "short-link",
      place: ["signpost", post.caption].reject(&:empty?).join(" · "),
      owner: "",
      status: "",
      key: "signpost #{post.id}",
      target: Orvant::Address.parse(post.target),
      since: post.created_at.to_date,
      facts: {"signpost" => post.id.to_s})
  end
end
