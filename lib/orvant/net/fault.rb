# frozen_string_literal: true

require "openssl"

module Orvant
  module Net
    # Says in words why a server gave no proper answer.
    module Fault
      CERTIFICATES = {
        /expired/ => "its certificate has expired", /not yet valid/ => "its certificate is not valid yet",
        /hostname|does not match the server certificate/i => "its certificate is for another host",
        /self[- ]signed/ => "its certificate is signed by itself, so no browser trusts it",
        /unable to get (local )?issuer/ => "its certificate comes from an issuer that no browser trusts",
        /revoked/ => "its certificate was revoked"
      }.freeze
      CONNECTIONS = {
        Errno::ECONNREFUSED => "it refused the connection", Errno::ECONNRESET => "it closed the connection",
        EOFError => "it closed the connection", Errno::EPIPE => "it closed the connection",
        Errno::EHOSTUNREACH => "it cannot be reached", Errno::ENETUNREACH => "it cannot be reached",
        Errno::ETIMEDOUT => "the connection timed out"
      }.freeze

      class << self
        # @param error [OpenSSL::SSL::SSLError]
        # @return [String] which fault the certificate has
        def certificate(error)
          known = CERTIFICATES.find { |pattern, _| error.message.match?(pattern) }
          known ? known.last : "no secure connection comes about (#{error.message.scrub[0, Cut::FAILURE]})"
        end

        # @param error [StandardError]
        # @return [String]
        def connection(error)
          CONNECTIONS.find { |kind, _| error.is_a?(kind) }&.last || plain(error)
        end

        private

        def plain(error)
          text = error.message.scrub[0, Cut::FAILURE]
          text.empty? ? error.class.name : text
        end
      end
    end
  end
end
