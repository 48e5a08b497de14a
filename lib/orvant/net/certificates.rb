# frozen_string_literal: true

require "openssl"

module Orvant
  module Net
    # Certificates: those that are trusted, and those that the gate shows to its own browser and nobody else.
    class Certificates
      # So many hosts are remembered with their certificate.
      MOST = 500
      YEAR = 365 * 86_400

      # @param file [String, nil] path of a PEM file with further certificates to trust
      # @return [OpenSSL::X509::Store]
      def self.trusted(file)
        OpenSSL::X509::Store.new.tap do |store|
          store.set_default_paths
          store.add_file(file) if file
        end
      end

      def initialize
        @key = OpenSSL::PKey::EC.generate("prime256v1")
        @contexts = Memory.new(MOST)
        @making = Mutex.new
      end

      # @return [String] the digest of the key by which Chromium is told to trust it (RFC 7469, 2.4)
      def pin = [OpenSSL::Digest::SHA256.digest(@key.public_to_der)].pack("m0")

      # @param host [String]
      # @return [OpenSSL::SSL::SSLContext] of a server of that name, which speaks HTTP/1.1
      def context(host)
        @making.synchronize { @contexts.fetch(host) { made(host) } }
      end

      private

      def made(host)
        OpenSSL::SSL::SSLContext.new.tap do |context|
          context.add_certificate(certificate(host), @key)
          context.alpn_select_cb = ->(offered) { offered.include?("http/1.1") ? "http/1.1" : offered.first }
        end
      end

      def certificate(host)
        OpenSSL::X509::Certificate.new.tap do |one|
          one.version = 2
          one.serial = OpenSSL::BN.rand(64)
          one.subject = one.issuer = OpenSSL::X509::Name.new([["CN", "Orvant's gate"]])
          one.public_key = @key
          one.not_before = Time.now - YEAR / 2
          one.not_after = Time.now + YEAR / 2
          factory = OpenSSL::X509::ExtensionFactory.new
          name = factory.create_extension("subjectAltName", alternative_name(host))
          one.add_extension(name)
          one.sign(@key, "SHA256")
        end
      end

      def alternative_name(host) = host.match?(/\A(\[|[\d.]+\z)/) ? "IP:#{host.delete("[]")}" : "DNS:#{host}"
    end
  end
end
