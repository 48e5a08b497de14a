# frozen_string_literal: true

# Passwords that are guessed first.
module CommonPassword
  FILE = File.expand_path("common_passwords.txt", __dir__)

  class << self
    # @param text [String]
    # @return [Boolean]
    def include?(text) = known.include?(text.downcase)

    private

    def known = @known ||= File.readlines(FILE, chomp: true).reject { |line| line.start_with?("#") }.to_set
  end
end
