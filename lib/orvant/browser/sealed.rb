# frozen_string_literal: true

require "etc"
require "ferrum"

module Orvant
  module Browser
    # Headless Chromium that is sealed: what a tag sends is answered here and never leaves, and every other request passes the same
    # guard as the engine's. Each visit has cookies and storage of its own.
    class Sealed
      SETTINGS = {
        "disable-gpu" => nil, "disable-quic" => nil, "no-first-run" => nil, "disable-background-networking" => nil,
        "disable-component-update" => nil, "disable-sync" => nil,
        "disable-features" => "Translate,OptimizationHints,MediaRouter"
      }.freeze
      SIZE = [1024, 768].freeze

      # @param guard [Net::Guard]
      # @param signatures [Array<Signal::Signature>]
      # @param path [String, nil] of the browser's program
      # @param options [Hash{String => String}] further options of its command line
      def initialize(guard:, signatures:, path: nil, options: {})
        @guard = guard
        @signatures = signatures
        @path = path
        @options = options
        @starting = Mutex.new
      end

      # @yieldparam visit [Visit] a page of its own, closed afterwards
      # @return what the block returns
      # @raise [Error::Unreachable] where the browser does not start or dies
      def visit
        context = chromium.contexts.create
        visit = Visit.new(context.create_page, guard: @guard, signatures: @signatures, agent: agent)
        yield visit
      rescue Ferrum::DeadBrowserError, Ferrum::ProcessTimeoutError, Ferrum::BinaryNotFoundError => error
        raise Error::Unreachable, "The browser could not be used: #{error.message[0, 160]}"
      ensure
        context&.dispose
      end

      # Ends the browser's process.
      def quit
        @chromium&.quit
        @chromium = nil
      end

      # @return [Integer, nil] the browser's process id while it runs
      def pid = @chromium&.process&.pid

      private

      def chromium
        @starting.synchronize { @chromium ||= Ferrum::Browser.new(**start_options) }
      end

      def agent = @agent ||= "#{chromium.version.user_agent.sub("Headless", "")} Orvant/#{VERSION}"

      def start_options
        {headless: "new", browser_path: @path, window_size: SIZE, timeout: 20, process_timeout: 30,
         pending_connection_errors: false,
         browser_options: SETTINGS.merge("host-resolver-rules" => resolver_rules).merge(@options).merge(Process.uid.zero? ? {"no-sandbox" => nil} : {})}.compact
      end

      # A second wall behind interception: the name of an endpoint that serves nothing else does not resolve in the browser at all.
      def resolver_rules
        sealed = @signatures.flat_map(&:sealed_hosts).map { |host| "MAP #{host} ~NOTFOUND" }
        (sealed + @guard.host_map.resolver_rules).join(", ")
      end
    end
  end
end
