# frozen_string_literal: true

require "bcrypt"
require "digest"
require "openssl"
require "zxcvbn"

# Passwords: which may be taken, and how they are kept. bcrypt reads 72 bytes and no zero; what it is given is
# a digest of the whole, whatever letters that is of.
module Password
  LENGTH = (12..1_000)
  # Tries, as a power of ten, after which somebody who knows words, names, dates and usual changes has it.
  GUESSES = 9
  # Letters that are judged; more are as good as these.
  JUDGED = 100
  # What every Orvant's password may begin with.
  PRODUCT = %w[orvant].freeze
  # Before what is kept: how it was made. Those of earlier versions have none.
  MARK = "sha256:"
  # One is reckoned at a time, over all of Orvant; seconds that the others wait for it.
  PATIENCE = 8

  class << self
    # @return [Integer] how dear it is to reckon one, as a power of two
    attr_writer :cost

    # @param text [String]
    # @return [String] as it is kept
    def digest(text) = reckoning { MARK + BCrypt::Password.create(prepared(text), cost: cost).to_s }

    # @param text [String] as typed
    # @param kept [String, nil] nil where nobody has it, which takes as long
    # @return [Boolean]
    # @raise [Problem] where too many others are at it
    def matches?(text, kept)
      same = reckoning { BCrypt::Password.new((kept || nobody).delete_prefix(MARK)).is_password?(given(text, kept)) }
      same && !kept.nil? && !text.to_s.include?("\0")
    end

    # @param kept [String]
    # @return [Boolean] whether it was kept as it is now
    def current?(kept) = kept.start_with?(MARK)

    # @param text [String]
    # @param own [Array<String>] name and address of whoever takes it, which it does not hold
    # @param near [Array<String>] what else those who guess know: names of workspaces
    # @return [String, nil] why it cannot be taken, in a sentence
    def fault(text, own: [], near: [])
      return "A password has twelve characters or more: a phrase of a few words is best." if text.length < LENGTH.min
      return "A password holds no zero bytes." if text.include?("\0")
      return "A password has at most #{LENGTH.max} characters." if text.length > LENGTH.max
      return "A password does not hold one’s own name or mail address." if words(own).any? { |word| text.downcase.include?(word) }
      guessed = PRODUCT + words(own) + words(near) + wholes(own + near)
      return if Zxcvbn.zxcvbn(text[0, JUDGED], guessed)["guesses_log10"] >= GUESSES

      "This password is one of those that are tried first. Take three or four words that nobody would put together."
    end

    private

    def words(names)
      names.flat_map { |name| parts(name) }.select { |word| word.length >= 4 }.uniq
    end

    # Names of several words, as they are put together.
    def wholes(names)
      names.flat_map { |name| ["", "-", "_", "."].map { |between| parts(name).join(between) } }
    end

    def parts(name) = name.to_s.downcase.split(/[^[:alnum:]]+/)

    # 44 letters, of which none is zero.
    def prepared(text) = Digest::SHA256.base64digest(text.to_s.unicode_normalize(:nfc))

    def given(text, kept) = (kept.nil? || current?(kept)) ? prepared(text.to_s.scrub) : text.to_s.delete("\0")

    # Of a password that nobody knows, as dear to check as any.
    def nobody = @nobody ||= BCrypt::Password.create(Token.make, cost: cost).to_s

    def cost = @cost || BCrypt::Engine.cost

    # Those who sign in wait for one another, so that others' requests do not.
    def reckoning
      File.open(Settings.var("locks", "password"), File::RDWR | File::CREAT) do |lock|
        deadline = now + PATIENCE
        until lock.flock(File::LOCK_EX | File::LOCK_NB)
          raise Problem.new(:too_many_tries, "Many sign in right now. Try again in a moment.") if now > deadline

          sleep 0.02
        end
        yield
      end
    end

    def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
  end
end
