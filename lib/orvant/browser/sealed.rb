# frozen_string_literal: true

require "etc"
require "ferrum"
require "openssl"
require "timeout"

module Orvant
  module Browser
    # Headless Chromium that is sealed: what a tag sends is answered here and never leaves, and every other request passes the same
    # guard as the engine's, twice: when it is intercepted, with the reason kept, and in the proxy, which connects to what was checked.
    # Each visit has cookies and storage of its own.
    class Sealed
      SETTINGS = {
        "disable-gpu" => nil, "disable-quic" => nil,
        # Even addresses of this machine go through the proxy, and nothing goes beside it.
        "proxy-bypass-list" => "<-loopback>", "force-webrtc-ip-handling-policy" => "disable_non_proxied_udp"
      }.freeze
      SIZE = [1024, 768].freeze
      # Seconds after which a visit is given up, whatever it waits for.
      LONGEST = 180

      # @param guard [Net::Guard]
      # @param signatures [Array<Signal::Signature>]
      # @param path [String, nil] of the browser's program
      # @param trusted [String, nil] path of a PEM file with further certificates to trust
      # @param confined [Boolean] where nobody has said how tags are recognised: pages reach only their own host, apart from documents
      # @param quiet [Float] seconds without a request after which a page has been watched
      # @param options [Hash{String => String}] further options of its command line
      def initialize(guard:, signatures:, path: nil, trusted: nil, quiet: Visit::QUIET, confined: false, options: {})
        @guard = guard
        @signatures = signatures
        @path = path
        @trusted = trusted
        @quiet = quiet
        @confined = confined
        @options = options
        @starting = Mutex.new
      end

      # @param visitor [Net::Visitor]
      # @yieldparam visit [Visit] a page of its own, closed afterwards
      # @return what the block returns
      # @raise [Error::Unreachable] where the browser does not start, dies, or fails at the page
      def visit(visitor = Net::Visitor::DESKTOP)
        context = chromium.contexts.create
        visit = Visit.new(context.create_page, guard: @guard, signatures: @signatures, agent: agent(visitor), visitor: visitor, quiet: @quiet, confined: @confined)
        Timeout.timeout(LONGEST, Error::Unreachable, "The browser did not come to an end within #{LONGEST} s.") { yield visit }
      rescue Ferrum::Error => error
        raise Error::Unreachable, "The browser could not be used: #{error.message[0, 160]}"
      ensure
        context&.dispose
      end

      # Ends the browser's process.
      def quit
        @chromium&.quit
        @proxy&.close
        @chromium = @proxy = nil
      end

      # @return [Integer, nil] the browser's process id while it runs
      def pid = @chromium&.process&.pid

      private

      def chromium
        @starting.synchronize { @chromium ||= Ferrum::Browser.new(**start_options) }
      end

      # Chromium's own name, so that sites show what they show to people, with Orvant's behind it.
      def agent(visitor)
        @agent ||= "#{chromium.version.user_agent.sub("Headless", "")} #{Net::Visitor::ORVANT}"
        visitor.phone ? @agent.sub(/\([^)]*\)/, "(Linux; Android 14)").sub(" Safari/", " Mobile Safari/") : @agent
      end

      def start_options
        {headless: "new", browser_path: @path, window_size: SIZE, timeout: 20, process_timeout: 30,
         pending_connection_errors: false, browser_options: browser_options}.compact
      end

      def browser_options
        @proxy = Net::Proxy.new(@guard, sealed: Hosts.new(@signatures.flat_map(&:sealed_hosts)))
        options = SETTINGS.merge("proxy-server" => "http://#{@proxy.address}").merge(@options)
        options["no-sandbox"] = nil if Process.uid.zero?
        options["ignore-certificate-errors-spki-list"] = trusted_keys.join(",") if @trusted
        options
      end

      # Chromium trusts single certificates by the digest of their public keys.
      def trusted_keys
        OpenSSL::X509::Certificate.load_file(@trusted).map { |one| [OpenSSL::Digest::SHA256.digest(one.public_key.public_to_der)].pack("m0") }
      end
    end
  end
end
