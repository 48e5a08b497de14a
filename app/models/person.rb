# frozen_string_literal: true

# Somebody who signs in.
class Person < ActiveRecord::Base
  MAIL = /\A[^\s@,;<>"]{1,64}@[^\s@,;<>"]{1,190}\z/
  # bcrypt reads no more bytes than that.
  PASSWORD = (10..72)

  has_secure_password validations: false
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
      # What bcrypt does not read is nobody's password, but takes as long.
      matches = BCrypt::Password.new(person&.password_digest || nobody)
        .is_password?(password.to_s.delete("\0"))
      person if person && matches && !password.to_s.include?("\0")
    end

    private

    # Of a password that nobody knows, as dear to check as any.
    def nobody
      @nobody ||= BCrypt::Password.create(
        Token.make,
        cost: ActiveModel::SecurePassword.min_cost ? BCrypt::Engine::MIN_COST : BCrypt::Engine.cost
      ).to_s
    end
  end

  # Takes a new password, which ends every visit that began with the old one.
  #
  # @param text [String]
  # @raise [Orvant::Error] naming what is wrong with it
  def take_password(text)
    fault = fault_of(text.to_s)
    raise Orvant::Error, fault if fault

    self.password = text
    SignIn.where(person_id: id).delete_all if persisted?
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

  # @return [Hash{String => Object}]
  def as_document = {"id" => id, "name" => name, "mail" => mail, "founder" => founder}

  private

  def fault_of(text)
    return "A password has ten characters or more." if text.length < PASSWORD.min
    return "A password holds no zero bytes." if text.include?("\0")
    return "A password has at most #{PASSWORD.max} bytes." if text.bytesize > PASSWORD.max
    if CommonPassword.include?(text) || text.chars.uniq.size < 4
      return "This password is one of those that are tried first. Take three or four words that nobody would put together."
    end

    if own_words.any? { |word| text.downcase.include?(word) }
      "A password does not hold one’s own name or mail address."
    end
  end

  def own_words
    [mail.to_s[/\A[^@]+/], *name.to_s.split].compact.map(&:downcase).select { |word| word.length >= 4 }
  end
end
