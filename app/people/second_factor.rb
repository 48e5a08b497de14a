# frozen_string_literal: true

require "rotp"
require "rqrcode"

# A code that an app on somebody's device shows and that changes every thirty seconds (RFC 6238); and codes to
# write down, each good once, for who has lost the device.
class SecondFactor
  ISSUER = "Orvant"
  # Seconds by which a clock may be wrong, and after which a code that was used is over.
  DRIFT = 30
  RECOVERY_CODES = 10
  # What a recovery code is made of.
  BLOCKS = 3
  BLOCK = /\A.{4}/
  RECOVERY = /\A[a-z2-7]{4}-[a-z2-7]{4}-[a-z2-7]{4}\z/

  # @param person [Person]
  def initialize(person)
    @person = person
  end

  # @return [Boolean] whether it is asked for
  def on? = !@person.totp_since.nil?

  # Makes a secret, which is asked for once a first code has shown that the device has it.
  #
  # @return [Hash{String => String}] secret: to type · address: as in the code · qr: SVG
  # @raise [Orvant::Error] where it is on already
  def begin
    raise Orvant::Error, "Your second factor is on: turn it off first." if on?

    secret = ROTP::Base32.random
    @person.update!(totp_secret: Secret.seal(secret), totp_used: 0)
    address = totp(secret).provisioning_uri(@person.mail)
    {"secret" => secret, "address" => address, "qr" => RQRCode::QRCode.new(address).as_svg(module_size: 4, use_path: true, viewbox: true)}
  end

  # @param code [String] as the device shows it
  # @return [Array<String>] recovery codes, shown once
  # @raise [Orvant::Error]
  def confirm(code)
    raise Orvant::Error, "Begin with a new code to scan." if on? || @person.totp_secret.nil?
    raise Orvant::Error, "This is not the code that the device shows now: is its clock right?" unless fresh?(code)

    codes = Array.new(RECOVERY_CODES) { Array.new(BLOCKS) { ROTP::Base32.random.downcase[BLOCK] }.join("-") }
    @person.update!(totp_since: Time.now.utc, recovery_digests: codes.map { |one| Token.digest(one) })
    codes
  end

  # @param code [String] of the device, or a recovery code, which is used up
  # @return [Boolean]
  def accepts?(code)
    said = code.to_s.strip.downcase
    return use_up(Token.digest(said)) if RECOVERY.match?(said)

    on? && fresh?(said)
  end

  # Asks for it no more.
  def turn_off = @person.update!(totp_secret: nil, totp_since: nil, totp_used: 0, recovery_digests: [])

  # @return [Integer] recovery codes that are left
  def left = @person.recovery_digests.size

  private

  def totp(secret = Secret.unseal(@person.totp_secret)) = ROTP::TOTP.new(secret, issuer: ISSUER)

  # A code is good once, also for two who send it at the same time.
  def fresh?(code)
    at = totp.verify(code.to_s.delete(" "), drift_behind: DRIFT, drift_ahead: DRIFT, after: @person.totp_used) or return false
    Person.where(id: @person.id).where("totp_used < ?", at).update_all(totp_used: at) == 1
  end

  def use_up(digest)
    @person.with_lock do
      left = @person.recovery_digests - [digest]
      used = left.size < @person.recovery_digests.size
      @person.update!(recovery_digests: left) if used
      used
    end
  end
end
