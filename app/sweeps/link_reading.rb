# frozen_string_literal: true

# What a link was built with, what of it lands, and what the tags of the page on which it lands read there.
class LinkReading
  # The latest visits of its page that are looked through.
  MOST_VISITS = 20

  # @param trail [LinkTrail] the last of the link
  # @param workspace [Workspace]
  def initialize(trail, workspace)
    @trail = trail
    @workspace = workspace
    @convention = workspace.convention
  end

  # @return [Hash{String => Object}, nil] at: when the page was opened · address: with which · tags: Array of
  #   tag, name, and whether it was heard · rows: Array of role, built, landed, read (Hash of tag to value, of
  #   those that can say the role), same. nil where its page was never opened with its own values
  def document
    return unless visit

    {
      "at" => visit.created_at.iso8601,
      "address" => visit.visit["address"],
      "tags" => tags.map { |one| {"tag" => one.tag, "name" => one.name, "heard" => views.key?(one.tag)} },
      "rows" => rows
    }
  end

  private

  # The values of a link on its page are seen only where the page was opened with them.
  def visit
    @visit ||= @workspace.page_visits.where(page: @trail.landing_page).order(id: :desc).limit(MOST_VISITS)
      .find { |one| one.visit["address"] == @trail.final_address && one.visit["reason"].nil? }
  end

  def views
    @views ||= visit.visit["signals"].to_a.map { |one| Orvant::Signal.from_h(one) }
      .select(&:page_view?).group_by(&:tag)
      .transform_values(&:first)
  end

  # Those that say a role themselves; others only name the page.
  def tags
    @tags ||= @workspace.tag_signatures.select do |one|
      one.roles.any? && (views.key?(one.tag) || visit.visit["tags"].to_a.include?(one.tag))
    end
  end

  def rows
    built, landed = [built_address, Orvant::Address.new(@trail.final_address)].map do |address|
      @convention.values_in(address)
    end
    @convention.roles.map(&:name).filter_map { |role| row(role, built[role].to_s, landed[role].to_s) }
  end

  # As it was followed.
  def built_address
    judged = Orvant::Address.new(@trail.judged_address || @trail.link.address)
    Orvant::Inventory::Samples.fill_in(judged, LinkEntries.sightings(@trail.link))
  end

  def row(role, built, landed)
    read = tags.select { |one| one.roles.include?(role) && views.key?(one.tag) }
      .to_h { |one| [one.tag, views[one.tag].values[role].to_s] }
    return if [built, landed, *read.values].all?(&:empty?)

    {
      "role" => role,
      "built" => built,
      "landed" => landed,
      "read" => read,
      "same" => [landed, *read.values].all?(built)
    }
  end
end
