# frozen_string_literal: true

# The role of a person in a workspace. Each workspace keeps an owner.
class Membership < ActiveRecord::Base
  belongs_to :person
  belongs_to :workspace

  # @param role [String]
  # @raise [Orvant::Error] where no owner would be left
  def change(role)
    role = Role.named(role)
    keep_an_owner { update!(role: role) }
    Deed.note(workspace, "#{person.name} made #{role}")
  end

  # Ends it.
  #
  # @raise [Orvant::Error] where no owner would be left
  def leave
    keep_an_owner { destroy! }
    Deed.note(workspace, "#{person.name} taken out of the workspace")
  end

  # @return [Hash{String => Object}]
  def as_document
    person.as_document.except("founder").merge(
      "role" => role,
      "since" => created_at.iso8601,
      "seen_at" => person.sign_ins.maximum(:seen_at)&.iso8601
    )
  end

  private

  # Two owners who take each other out wait for each other here.
  def keep_an_owner
    workspace.with_lock do
      yield
      unless Membership.exists?(workspace: workspace, role: "owner")
        raise Orvant::Error, "A workspace keeps an owner: make somebody else owner first."
      end
    end
  end
end
