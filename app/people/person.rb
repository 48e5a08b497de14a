# frozen_string_literal: true

# Somebody who signs in.
class Person < ActiveRecord::Base
  MAIL = /\A[^\s@,;<>"]{1,64}@[^\s@,;<>"]{1,190}\z/

  has_many :memberships
  has_many :sign_ins

  class << self
    # @param text [String] a mail address as typed
    # @return [String] as it is kept
    # @raise [Orvant::Error]
    def mail(text)
      unless MAIL.match?(text.to_s.strip) && !text.match?(/[[:cntrl:]]/)
        raise Orvant::Error, "“#{text.to_s.gsub(/[[:cntrl:]]+/, " ")[0, Orvant::Cut::QUOTE]}” is no mail address."
      end

      text.strip.downcase
    end

    # @param mail [String] as typed
    # @param password [String]
    # @return [Person, nil] who has both; an unknown address takes as long as a wrong password
    def with(mail, password)
      person = find_by(mail: mail.to_s.strip.downcase)
      return unless Password.matches?(password, person&.password_digest)

      unless Password.current?(person.password_digest)
        person.update!(password_digest: Password.digest(password))
      end
      person
    end
  end

  # Takes a new password, which ends every visit that began with the old one.
  #
  # @param text [String]
  # @param workspaces [ActiveRecord::Relation] whose names it may not be
  # @raise [Orvant::Error] naming what is wrong with it
  def take_password(text, workspaces = joined)
    hold_password(text, workspaces)
    self.password_digest = Password.digest(text)
    SignIn.where(person_id: id).delete_all if persisted?
  end

  # @param text [String]
  # @param workspaces [ActiveRecord::Relation] whose names it may not be
  # @raise [Orvant::Error] naming why it can be no password of theirs
  def hold_password(text, workspaces = joined)
    near = workspaces.pluck(:title, :name).flatten
    fault = Password.fault(text.to_s, own: [mail.to_s[/\A[^@]+/], name], near: near)
    raise Orvant::Error, fault if fault
  end

  # @param text [String] as typed
  # @raise [Orvant::Error]
  def take_name(text)
    said = text.to_s.gsub(/[[:cntrl:]]+/, " ").strip
    raise Orvant::Error, "Say your name, in at most 100 characters." unless said.length.between?(1, 100)

    self.name = said
  end

  # @param workspace [Workspace]
  # @return [String, nil] one of Role::NAMES
  def role_in(workspace) = memberships.where(workspace: workspace).pick(:role)

  # @return [SecondFactor]
  def second_factor = SecondFactor.new(self)

  # @return [Hash{String => Object}]
  def as_document = {"id" => id, "name" => name, "mail" => mail, "founder" => founder}

  # @return [String] the same as long as nothing has changed of what this person may reach
  def reach
    Token.digest(JSON.generate([founder, memberships.order(:workspace_id).pluck(:workspace_id, :role)]))
  end

  private

  def joined = Workspace.where(id: memberships.select(:workspace_id))
end
