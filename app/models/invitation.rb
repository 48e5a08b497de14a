# frozen_string_literal: true

# A link, good once and for a day, with which somebody makes an account, joins a workspace, or takes a new
# password.
class Invitation < ActiveRecord::Base
  # founder: the first account · member: into a workspace · password: a new one for an account that is there.
  PURPOSES = %w[founder member password].freeze
  LASTS = 24 * 60 * 60

  belongs_to :workspace, optional: true
  belongs_to :person, optional: true

  scope :open, -> { where(used_at: nil).where("ends_at > ?", Time.now.utc) }

  class << self
    # @return [Array(Invitation, String)] the row, and the token of its link
    def founder = issue(purpose: "founder")

    # @param workspace [Workspace]
    # @param mail [String] as typed
    # @param role [String] one of Role::NAMES
    # @return [Array(Invitation, String)]
    # @raise [Orvant::Error]
    def member(workspace, mail:, role:)
      mail = Person.mail(mail)
      if Membership.joins(:person).exists?(workspace: workspace, people: {mail: mail})
        raise Orvant::Error, "#{mail} is in this workspace already."
      end

      open.where(workspace: workspace, mail: mail).delete_all
      issue(purpose: "member", workspace: workspace, mail: mail, role: Role.named(role)).tap do
        Deed.note(workspace, "#{mail} invited, as #{role}")
      end
    end

    # @param person [Person]
    # @return [Array(Invitation, String)]
    def password(person)
      open.where(person: person, purpose: "password").delete_all
      issue(purpose: "password", person: person, mail: person.mail)
    end

    # @param token [String]
    # @return [Invitation]
    # @raise [ActiveRecord::RecordNotFound] where it was used, is over, or never was
    def with(token) = open.find_by!(digest: Token.digest(token))

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
  # @return [Person]
  # @raise [Orvant::Error] naming what is wrong; it stays good then
  def accept(name:, mail:, password:)
    transaction do
      unless self.class.open.where(id: id).update_all(used_at: Time.now.utc) == 1
        raise ActiveRecord::RecordNotFound
      end

      send(:"accept_#{purpose}", name, mail, password)
    end
  end

  # @return [Boolean] whether whoever is invited has an account
  def known? = purpose == "password" || (purpose == "member" && Person.exists?(mail: mail))

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
      "known" => known?,
      "workspace" => workspace&.title,
      "by" => author
    }
  end

  private

  def accept_founder(name, mail, password) = Founder.make(name: name, mail: mail, password: password)

  def accept_member(name, _, password)
    guest =
      if Person.exists?(mail: mail)
        Tries.count("mail:#{mail}") { Person.with(mail, password) }
      else
        newcomer(name, password)
      end
    raise Orvant::Error, "There is an account for #{mail} already, with another password." unless guest

    workspace.with_lock do
      Membership.find_or_create_by!(person: guest, workspace: workspace) { |one| one.role = role }
    end
    Acting.set(author: guest.name) { Deed.note(workspace, "#{guest.name} joined, as #{role}") }
    guest
  end

  def accept_password(_, _, password)
    person.take_password(password)
    person.save!
    person
  end

  def newcomer(name, password)
    Person.new(mail: mail).tap do |one|
      one.take_name(name)
      one.take_password(password)
      one.save!
    end
  end
end
