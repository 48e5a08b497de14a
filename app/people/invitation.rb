# frozen_string_literal: true

# A link, good once and for a day, with which somebody makes an account, joins a workspace, or takes a new
# password.
class Invitation < ActiveRecord::Base
  # founder: the first account · member: into a workspace · password: a new one for an account that is there.
  PURPOSES = %w[founder member password].freeze
  LASTS = 24 * 60 * 60

  belongs_to :workspace, optional: true
  belongs_to :person, optional: true
  # Who made it; nobody where the command line did, or Orvant is one person's.
  belongs_to :made_by, class_name: "Person", optional: true

  scope :open, -> { where(used_at: nil).where("ends_at > ?", Time.now.utc) }

  class << self
    # @return [Array(Invitation, String)] the row, and the token of its link
    def founder = issue(purpose: "founder")

    # @param workspace [Workspace]
    # @param mail [String] as typed
    # @param role [String] one of Role::NAMES
    # @param by [Person, nil]
    # @return [Array(Invitation, String)]
    # @raise [Orvant::Error]
    def member(workspace, mail:, role:, by: nil)
      mail = Person.mail(mail)
      if Membership.joins(:person).exists?(workspace: workspace, people: {mail: mail})
        raise Orvant::Error, "#{mail} is in this workspace already."
      end

      open.where(workspace: workspace, mail: mail).delete_all
      issue(purpose: "member", workspace: workspace, mail: mail, role: Role.named(role), made_by: by).tap do
        Deed.note(workspace, "#{mail} invited, as #{role}")
      end
    end

    # @param person [Person]
    # @return [Array(Invitation, String)]
    def password(person)
      forget_passwords_of(person.id)
      issue(purpose: "password", person: person, mail: person.mail, reach: person.reach)
    end

    # A link opens what its person could reach when it was made, and nothing that came later.
    #
    # @param person_id [Integer]
    def forget_passwords_of(person_id) = open.where(person_id: person_id, purpose: "password").delete_all

    # @param token [String]
    # @return [Invitation]
    # @raise [ActiveRecord::RecordNotFound] where it was used, is over, or never was
    def with(token)
      open.find_by!(digest: Token.digest(token)).tap { |one| raise ActiveRecord::RecordNotFound if one.outgrown? }
    end

    private

    def issue(**facts)
      token = Token.make
      [
        create!(digest: Token.digest(token), ends_at: Time.now.utc + LASTS, author: Acting.author, **facts),
        token
      ]
    end
  end

  # Does what it is for, once.
  #
  # @param name [String] of a new account
  # @param mail [String] of the first account
  # @param password [String] a new one; of an account that is there, its own
  # @param code [String, nil] the second factor of an account that is there
  # @param machine [String] address of who comes
  # @return [Person]
  # @raise [Orvant::Error] naming what is wrong; it stays good then
  # @raise [Problem]
  def accept(name:, mail:, password:, code: nil, machine: "")
    # What is tried is counted whether or not what follows is taken back.
    guest = (purpose == "member") ? recognise(password, code, machine) : person
    hold_code(password, code) if purpose == "password"
    transaction do
      unless self.class.open.where(id: id).update_all(used_at: Time.now.utc) == 1
        raise ActiveRecord::RecordNotFound
      end

      send(:"accept_#{purpose}", guest, name, mail, password)
    end
  end

  # @return [Boolean] whether it was made before its person could reach what they can now
  def outgrown? = purpose == "password" && person&.reach != reach

  # @return [Hash{String => Object}]
  def as_document
    {"id" => id, "mail" => mail, "role" => role, "author" => author, "ends_at" => ends_at.iso8601}
  end

  # What stands at its link, before it is used.
  # @return [Hash{String => Object}]
  def for_its_guest
    {
      "purpose" => purpose,
      "mail" => mail,
      "role" => role,
      "workspace" => workspace&.title,
      "by" => author
    }
  end

  private

  # Whether there is an account is told to nobody but who has its password.
  def recognise(password, code, machine)
    return unless Person.exists?(mail: mail)

    SigningIn.new(mail, password, code: code, machine: machine).call || raise(Problem.new(
      :wrong_password,
      "That did not work. Who has an account here comes in with its password; who has none takes another one."
    ))
  end

  # A new password is no new second factor. One that cannot be taken costs no code.
  def hold_code(password, code)
    person.hold_password(password)
    return unless person.second_factor.on?
    raise Problem.new(:second_factor) if code.to_s.empty?
    return if Tries.count("code:#{person.mail}") { person.second_factor.accepts?(code) || nil }

    raise Problem.new(:wrong_password, "The code is not the one that the device shows now.")
  end

  def accept_founder(_, name, mail, password) = Founder.make(name: name, mail: mail, password: password)

  def accept_member(guest, name, _, password)
    guest ||= newcomer(name, password)
    workspace.with_lock do
      Membership.find_or_create_by!(person: guest, workspace: workspace) { |one| one.role = role }
    end
    Acting.set(author: guest.name) { Deed.note(workspace, "#{guest.name} joined, as #{role}") }
    guest
  end

  def accept_password(person, _, _, password)
    person.take_password(password)
    person.save!
    person
  end

  def newcomer(name, password)
    Person.new(mail: mail).tap do |one|
      one.take_name(name)
      one.take_password(password, Workspace.where(id: workspace_id))
      one.save!
    end
  end
end
