# frozen_string_literal: true

# The values that are offered where somebody fills in a new link: those that the rules list, and behind them
# those that links of late carry, the commonest first.
class OfferedNames
  ROLES = %w[campaign content].freeze
  # Links of late that are looked through, values of the rules for one role, and values in use that are
  # offered: a longer list is searched by nobody.
  MOST_LINKS = 5_000
  MOST_LISTED = 2_000
  MOST_USED = 1_000

  # @param workspace [Workspace]
  # @param rules [Orvant::Convention]
  def initialize(workspace, rules)
    @workspace = workspace
    @rules = rules
  end

  # @return [Hash{String => Array<String>}] by role
  def by_role
    values = @rules.roles.to_h { |role| [role.name, role.vocabulary.values.first(MOST_LISTED)] }
    used.each do |role, value|
      values[role] |= [value] if values.key?(role) && @rules.role(role).acceptable?(value)
    end
    values
  end

  private

  # @return [Array<Array(String, String)>] role and value
  def used
    addresses = @workspace.links.swept.order(id: :desc).limit(MOST_LINKS).pluck(:address)
    said = addresses.flat_map { |text| @rules.values_in(Orvant::Address.new(text)).slice(*ROLES).to_a }
    said.tally.sort_by { |_, count| -count }.first(MOST_USED).map(&:first)
  end
end
