# frozen_string_literal: true

require "digest"
require "securerandom"

# What lets somebody in without a password: long enough that nobody guesses it, and kept as a digest alone.
module Token
  class << self
    # @return [String] of 43 letters, digits, - and _
    def make = SecureRandom.urlsafe_base64(32)

    # @param token [String]
    # @return [String] as it is kept
    def digest(token) = Digest::SHA256.hexdigest(token.to_s)
  end
end
