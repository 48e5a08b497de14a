# frozen_string_literal: true

require "securerandom"

# Lets the browser run only what ships with Orvant: no inline script at all, and no inline style but the
# theme's own, by nonce.
class ContentSecurity
  # In seconds.
  A_YEAR = 31_536_000

  # @param app [#call]
  def initialize(app)
    @app = app
  end

  # @param env [Hash]
  # @return [Array] the response with its security headers
  def call(env)
    nonce = env["orvant.nonce"] = SecureRandom.base64(18)
    status, headers, body = @app.call(env)
    headers["content-security-policy"] = policy(nonce)
    headers["referrer-policy"] = "no-referrer"
    headers["x-content-type-options"] = "nosniff"
    headers["cross-origin-opener-policy"] = "same-origin"
    headers["cross-origin-resource-policy"] = "same-origin"
    # RFC 6797: said over TLS alone, where browsers heed it.
    headers["strict-transport-security"] = "max-age=#{A_YEAR}" if env["rack.url_scheme"] == "https"
    [status, headers, body]
  end

  private

  def policy(nonce)
    "default-src 'none'; script-src 'self'; style-src 'self' 'nonce-#{nonce}'; img-src 'self' data:; font-src 'self'; connect-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
  end
end
