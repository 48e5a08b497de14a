# frozen_string_literal: true

# The settings of a workspace that are no rules: its name, currency, hosts in one's own network, tags and
# fields that pages must have.
class WorkspaceChange
  SAID = {"title" => "The name",
          "currency" => "The currency",
          "archived" => "Where the workspace is",
          "host_map" => "Hosts in one’s own network",
          "signatures" => "Signatures",
          "expected_tags" => "Expected tags",
          "expected_fields" => "Expected fields",
          "watching" => "Goals, variants and consent",
          "networks" => "Networks",
          "preferences" => "Pace and keeping",
          "second_factor" => "Who needs a second factor",
          "rehearsals" => "Rehearsals"}.freeze

  # What is on or off, and how either is said.
  SWITCHES = {"archived" => ["put away", "taken back"], "second_factor" => ["everybody", "nobody"]}.freeze

  # By what an entry of a list is told from others, the plainest first.
  NAMED_BY = %w[name title tag network page].freeze

  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
  end

  # @return [Hash{String => Object}] as they stand
  def document
    {**plain,
      "networks" => @workspace.networks.map { |one|
        one.except("key").merge("has_key" => one["key"].to_s != "")
      },
      "rehearsals" => @workspace.rehearsal_scripts.order(:name).map(&:document),
      "preferences" => @workspace.pace.to_h}
  end

  # @param wish [Hash{String => Object}] those that are to change
  # @return [void]
  # @raise [Orvant::Error] naming what cannot be used; nothing is changed then
  def call(wish)
    facts = wish.slice("host_map", "signatures", "expected_tags", "expected_fields", "watching",
      "second_factor")
    facts["title"] = Founding.title(wish["title"]) if wish.key?("title")
    facts["currency"] = Founding.currency(wish["currency"]) if wish.key?("currency")
    if wish.key?("archived")
      facts["archived_at"] = (wish["archived"] ? @workspace.archived_at || Time.now.utc : nil)
    end
    Orvant::Net::HostMap.read(facts["host_map"]).within(Settings.reach) if facts.key?("host_map")
    facts["signatures"]&.each { |one| Orvant::Signal::Signature.read(one) }
    Orvant::Watching.read({
      "expected_tags" => facts["expected_tags"] || @workspace.expected_tags,
      **(facts["watching"] || @workspace.watching)
    })
    known_tags(facts)
    facts["networks"] = networks(wish["networks"]) if wish.key?("networks")
    facts["preferences"] = @workspace.pace.changed(wish["preferences"]) if wish.key?("preferences")
    rehearsals = wish["rehearsals"]&.map { |one| Orvant::Rehearsal.read(one) }
    noting do
      @workspace.update!(facts)
      keep_rehearsals(rehearsals, wish["rehearsals"]) if rehearsals
    end
  end

  # Puts a setting back to what it was before somebody changed it.
  #
  # @param deed [Deed] of this workspace
  # @return [void]
  # @raise [Orvant::Error] where it was changed again since
  def take_back(deed)
    raise Orvant::Error, "This was taken back already." if deed.undone_at
    unless kept[deed.setting] == deed.after
      raise Orvant::Error, "#{SAID.fetch(deed.setting)} changed again since: take that back first."
    end

    noting do
      deed.update!(undone_at: Time.now.utc)
      if deed.setting == "preferences"
        @workspace.update!(preferences: deed.before)
      else
        call(deed.setting => deed.before)
      end
    end
  end

  private

  # A setting inside another change is noted with it.
  def noting
    return yield if @noting

    @noting = true
    Workspace.transaction do
      before = kept
      yield
      after = kept
      before.each { |name, value| note(name, value, after[name]) unless value == after[name] }
    end
  ensure
    @noting = false
  end

  def note(name, before, after)
    Deed.note(
      @workspace,
      "#{SAID.fetch(name)} changed#{difference(name, before, after)}",
      setting: name,
      before: before,
      after: after
    )
  end

  # Few words where few fit.
  def difference(name, before, after)
    return " from “#{before}” to “#{after}”" if before.is_a?(String)
    return ": #{SWITCHES.fetch(name)[after ? 0 : 1]}" unless before.is_a?(Enumerable)

    changed =
      if before.is_a?(Hash)
        (before.keys | after.keys).select { |key| before[key] != after[key] }
      else
        ((before - after) | (after - before)).map { |one| one.values_at(*NAMED_BY).compact.first }
      end
    names = changed.compact.uniq
    names.empty? ? "" : ": #{names.first(4).join(", ")}#{" and #{names.size - 4} more" if names.size > 4}"
  end

  # What is shown as it is stored.
  def plain
    {"title" => @workspace.title,
     "currency" => @workspace.currency,
     "archived" => !@workspace.archived_at.nil?,
     "second_factor" => @workspace.second_factor,
     "host_map" => @workspace.host_map,
     "signatures" => @workspace.signatures,
     "expected_tags" => @workspace.expected_tags,
     "expected_fields" => @workspace.expected_fields,
     "watching" => @workspace.watching}
  end

  # As they are stored, keys sealed.
  def kept
    @workspace.reload
    {**plain,
      "networks" => @workspace.networks,
      "preferences" => @workspace.preferences,
      "rehearsals" => @workspace.rehearsal_scripts.order(:name).map(&:document)}
  end

  # A key is told once and never shown: a network that comes without one keeps what it has.
  def networks(wish)
    twice = wish.map { |one| one["network"].to_s.strip.downcase }.tally
      .find { |name, times| times > 1 || name.empty? }&.first
    if twice
      raise Orvant::Error, twice.empty? ? "A network needs a name." : "The network “#{twice}” is there twice."
    end

    wish.map do |one|
      Orvant::Address.parse(one["address"])
      kept = @workspace.networks.find { |known| known["network"] == one["network"] }
      key = NetworkKey.for(kept, one["address"], one["key"])
      one.slice("network", "address", "owner").merge({"key" => key}.compact)
    end
  end

  # Those that are not named any more go, with what was seen of them.
  def keep_rehearsals(rehearsals, documents)
    twice = rehearsals.map(&:name).tally.find { |_, times| times > 1 }&.first
    raise Orvant::Error, "The rehearsal “#{twice}” is there twice." if twice

    gone = @workspace.rehearsal_scripts.where.not(name: rehearsals.map(&:name))
    gone.destroy_all
    rehearsals.zip(documents) do |one, document|
      @workspace.rehearsal_scripts.find_or_initialize_by(name: one.name).update!(document: document)
    end
    @workspace.tell("workspace.changed")
  end

  # A tag that nobody has described would be missing on every page.
  def known_tags(facts)
    described = (facts["signatures"] || @workspace.signatures).map { |one| one["tag"] }
    twice = described.tally.find { |_, times| times > 1 }&.first
    raise Orvant::Error, "The tag “#{twice}” is described twice." if twice

    unknown = (facts["expected_tags"] || @workspace.expected_tags).map { |one| one["tag"] } - described
    if unknown.any?
      raise Orvant::Error, "The tag “#{unknown.first}” is expected, but no signature describes it."
    end
  end
end
