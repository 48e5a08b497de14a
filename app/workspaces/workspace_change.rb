# frozen_string_literal: true

# The settings of a workspace that are no rules: its name, currency, hosts in one's own network, tags and fields that pages must have.
class WorkspaceChange
  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
  end

  # @return [Hash{String => Object}] as they stand
  def document
    {"title" => @workspace.title, "currency" => @workspace.currency, "archived" => !@workspace.archived_at.nil?, "host_map" => @workspace.host_map,
     "signatures" => @workspace.signatures, "expected_tags" => @workspace.expected_tags, "expected_fields" => @workspace.expected_fields}
  end

  # @param wish [Hash{String => Object}] those that are to change
  # @return [void]
  # @raise [Orvant::Error] naming what cannot be used; nothing is changed then
  def call(wish)
    facts = wish.slice("host_map", "signatures", "expected_tags", "expected_fields")
    facts["title"] = title(wish["title"]) if wish.key?("title")
    facts["currency"] = currency(wish["currency"]) if wish.key?("currency")
    facts["archived_at"] = (wish["archived"] ? @workspace.archived_at || Time.now.utc : nil) if wish.key?("archived")
    Orvant::Net::HostMap.read(facts["host_map"]) if facts.key?("host_map")
    facts["signatures"]&.each { |one| Orvant::Signal::Signature.read(one) }
    known_tags(facts)
    @workspace.update!(facts)
  end

  private

  def title(text)
    return text.strip if text.strip.length.between?(1, 100)

    raise Orvant::Error, "Give the workspace a name of at most 100 characters."
  end

  def currency(text)
    return text if Founding::CURRENCY.match?(text)

    raise Orvant::Error, "“#{text[0, 20]}” is no currency: three letters, such as EUR."
  end

  # A tag that nobody has described would be missing on every page.
  def known_tags(facts)
    described = (facts["signatures"] || @workspace.signatures).map { |one| one["tag"] }
    twice = described.tally.find { |_, times| times > 1 }&.first
    raise Orvant::Error, "The tag “#{twice}” is described twice." if twice

    unknown = (facts["expected_tags"] || @workspace.expected_tags).map { |one| one["tag"] } - described
    raise Orvant::Error, "The tag “#{unknown.first}” is expected, but no signature describes it." if unknown.any?
  end
end
