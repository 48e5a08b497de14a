# frozen_string_literal: true

# Whoever asks: a person who has signed in, a key of a pipeline, somebody at a machine on which nobody has
# made an account, or a stranger.
class Caller
  # @return [Person, nil]
  attr_reader :person
  # @return [ApiKey, nil]
  attr_reader :key

  # @return [Boolean] whether Orvant is one person's tool, which asks nobody who they are
  def self.alone? = Settings["ORVANT_SIGN_IN"].to_s.empty? && !Person.exists?

  # @param person [Person, nil]
  # @param key [ApiKey, nil]
  # @param alone [Boolean]
  def initialize(person: nil, key: nil, alone: false)
    @person = person
    @key = key
    @alone = alone
  end

  # @return [Boolean]
  def alone? = @alone

  # @return [Boolean]
  def stranger? = !alone? && person.nil? && key.nil?

  # @return [String] by which they are told from all others
  def mark = person&.then { |one| "person #{one.id}" } || key&.then { |one| "key #{one.id}" } || "alone"

  # @return [String] under which deeds are kept; "" where nobody has signed in
  def name = person&.name || key&.then { |one| "#{one.name} (key)" } || ""

  # @param workspace [Workspace]
  # @return [String, nil] one of Role::NAMES
  def role_in(workspace)
    return "owner" if alone?
    return (key.role if key.workspace_id == workspace.id) if key

    person&.role_in(workspace)
  end

  # @return [Boolean] whether new workspaces may be made
  def founds? = alone? || (!person.nil? && (person.founder || person.memberships.exists?(role: "owner")))

  # @return [ActiveRecord::Relation<Workspace>] those that may be seen
  def workspaces
    return Workspace.shown if alone?

    Workspace.shown.where(id: key ? key.workspace_id : Membership.where(person: person).select(:workspace_id))
  end
end
