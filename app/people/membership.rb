# frozen_string_literal: true

# The role of a person in a workspace. Each workspace keeps an owner.
class Membership < ActiveRecord::Base
  belongs_to :person
  belongs_to :workspace

  # A link to a new password opens no more than it did when it was made.
  after_save { Invitation.forget_passwords_of(person_id) }
  after_destroy { Invitation.forget_passwords_of(person_id) }

  # @param role [String]
  # @param heir [Person, nil] an owner to whom invitations and keys pass, where this one is owner no more;
  #   without one they end
  # @raise [Orvant::Error] where no owner would be left
  def change(role, heir: nil)
    role = Role.named(role)
    keep_an_owner do
      update!(role: role)
      hand_over(heir) unless role == "owner"
    end
    Deed.note(workspace, "#{person.name} made #{role}")
  end

  # Ends it.
  #
  # @param heir [Person, nil] as `change`
  # @raise [Orvant::Error] where no owner would be left
  def leave(heir: nil)
    keep_an_owner do
      destroy!
      hand_over(heir)
    end
    Deed.note(workspace, "#{person.name} taken out of the workspace")
  end

  # @return [Hash{String => Object}]
  def as_document
    person.as_document.except("founder").merge(
      "role" => role,
      "made" => made.sum { |rows| rows.count },
      "second_factor" => person.second_factor.on?,
      "since" => created_at.iso8601,
      "seen_at" => person.sign_ins.maximum(:seen_at)&.iso8601
    )
  end

  private

  # @return [Array<ActiveRecord::Relation>] invitations that are open and keys in force, by this person
  def made
    [Invitation.open, ApiKey.in_force].map { |rows|
      rows.where(workspace_id: workspace_id, made_by_id: person_id)
    }
  end

  def hand_over(heir)
    if heir && heir.id != person_id && heir.role_in(workspace) == "owner"
      return made.each { |rows| rows.update_all(made_by_id: heir.id) }
    end

    invitations, keys = made
    invitations.delete_all
    keys.each(&:take_back)
  end

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
