# frozen_string_literal: true

module Orvant
  class Trail
    # Hosts that a visitor asks over TLS alone from now on, as their answers on this trail have said (RFC
    # 6797). What a browser brings along from earlier visits is not known.
    class StrictTransport
      MAX_AGE = /\Amax-age\s*=\s*"?(\d{1,18})"?\z/i
      ADDRESS = /\A[\d.]+\z|\A\[/

      def initialize
        @hosts = {}
      end

      # @param address [Address] that was asked
      # @param value [String, nil] of its `Strict-Transport-Security` header
      def take(address, value)
        return if value.nil? || address.scheme != "https" || address.host.match?(ADDRESS)

        directives = value.split(";").map(&:strip)
        age = directives.filter_map { |one| one[MAX_AGE, 1] }.first or return
        return @hosts.delete(address.host) if age.to_i.zero?

        @hosts[address.host] = directives.any? { |one| one.casecmp?("includeSubDomains") }
      end

      # @param address [Address]
      # @return [Address] as it is asked for
      def secure(address)
        return address unless address.scheme == "http" && covers?(address.host)

        authority = address.authority.sub(/:80\z/, "")
        Address.new(address.raw.sub(%r{\Ahttp://[^/?#]*}i) { "https://#{authority}" })
      end

      private

      def covers?(host)
        return true if @hosts.key?(host)

        labels = host.split(".")
        (1...labels.size).any? { |from| @hosts[labels.drop(from).join(".")] }
      end
    end
  end
end
