# frozen_string_literal: true

# That somebody has signed in, on one browser.
class SignIn < ActiveRecord::Base
  LASTS = 30 * 24 * 60 * 60
  # How often it is noted that somebody is still there, in seconds.
  SEEN_EVERY = 300

  belongs_to :person

  class << self
    # @param person [Person]
    # @return [String] the token that the browser keeps
    def begin(person)
      where(person: person).where("created_at <= ?", Time.now.utc - LASTS).delete_all
      Token.make.tap { |token| create!(person: person, digest: Token.digest(token), seen_at: Time.now.utc) }
    end

    # @param token [String, nil] as a browser sends it
    # @return [SignIn, nil]
    def of(token)
      return if token.to_s.empty?

      # Every request asks: by one value alone, so that the statement is prepared once.
      one = find_by(digest: Token.digest(token))
      one.tap(&:see) if one&.in_force?
    end
  end

  # @return [Boolean]
  def in_force? = created_at > Time.now.utc - LASTS

  # Notes that the person is there.
  def see = (update_columns(seen_at: Time.now.utc) if seen_at < Time.now.utc - SEEN_EVERY)
end
