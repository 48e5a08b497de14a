# frozen_string_literal: true

# What a person or a key may do in a workspace. A reader looks and takes out, masked; an editor collects,
# sweeps, builds, lets stand and marks; an owner changes rules, settings and people, and deletes. Each may
# what those before it may.
module Role
  NAMES = %w[reader editor owner].freeze

  class << self
    # @param role [String, nil] of whoever asks; nil where there is none
    # @param least [String] one of NAMES
    # @return [Boolean]
    def reaches?(role, least) = !role.nil? && NAMES.index(role) >= NAMES.index(least)

    # @param text [String]
    # @return [String] one of NAMES
    # @raise [Orvant::Error]
    def named(text)
      NAMES.include?(text) ? text : raise(Orvant::Error, "A role is one of: #{NAMES.join(", ")}.")
    end
  end
end
