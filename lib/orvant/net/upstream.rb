# frozen_string_literal: true

require "openssl"
require "socket"

module Orvant
  module Net
    # Connects to the very server that the guard checked, over TLS where the address says so.
    class Upstream
      # @param guard [Guard]
      # @param trusted [String, nil] path of a PEM file with further certificates to trust
      def initialize(guard, trusted: nil)
        @guard = guard
        @trusted = trusted
        @making = Mutex.new
      end

      # @param address [Address]
      # @yieldparam server [Socket, OpenSSL::SSL::SSLSocket] closed afterwards
      # @raise [Error::Refused] where the policy forbids it; nothing was sent
      # @raise [Error::Unreachable] where no connection comes about
      def open(address)
        destination = @guard.permit(address)
        plain = connect(address, destination)
        yield (address.scheme.downcase == "https") ? secure(plain, address) : plain
      ensure
        plain&.close
      end

      private

      def connect(address, destination)
        Socket.tcp(destination.ip, destination.port, connect_timeout: Wire::WAIT)
          .tap { |socket| socket.setsockopt(Socket::IPPROTO_TCP, Socket::TCP_NODELAY, true) }
      rescue SystemCallError => error
        raise Error::Unreachable, "#{address.host} gave no proper answer: #{Fault.connection(error)}."
      end

      def secure(plain, address)
        OpenSSL::SSL::SSLSocket.new(plain, context).tap do |socket|
          socket.hostname = address.host unless address.host.match?(/\A[\[\d]/)
          socket.connect
          socket.post_connection_check(address.host.delete("[]"))
        end
      rescue OpenSSL::SSL::SSLError => error
        raise Error::Unreachable, "#{address.host} offers no secure connection: #{Fault.certificate(error)}."
      rescue SystemCallError, IOError => error
        raise Error::Unreachable, "#{address.host} gave no proper answer: #{Fault.connection(error)}."
      end

      def context
        @making.synchronize do
          @context ||= OpenSSL::SSL::SSLContext.new.tap do |context|
            context.set_params(
              verify_mode: OpenSSL::SSL::VERIFY_PEER,
              cert_store: Certificates.trusted(@trusted)
            )
          end
        end
      end
    end
  end
end
