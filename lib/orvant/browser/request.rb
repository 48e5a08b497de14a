# frozen_string_literal: true

module Orvant
  module Browser
    # One request that the sealed browser wants to make.
    #
    # method · address: Address, http or https (web sockets too) · headers: Hash of lower case names to values
    # · body: bytes, cut at the most · purpose: what the browser wants it for, by its own word (`Document`,
    # `Script`, `Image`, …), nil where it says none · context: `page`, `frame` or `window` (one that the page
    # opened), that it is for · form: whether a form asks for the document · home: whether the page in the
    # window, or a frame of it, asks a host that the page came from.
    Request = Struct.new(
      :method,
      :address,
      :headers,
      :body,
      :purpose,
      :context,
      :form,
      :home,
      keyword_init: true
    ) do
      # @return [Boolean] whether the browser only asks for leave to ask (Fetch Standard, 4.8)
      def preflight? = method == "OPTIONS" && headers.key?("access-control-request-method")

      # @return [Boolean]
      def socket? = headers["upgrade"].to_s.casecmp?("websocket")

      # @return [Boolean] whether it is for the page in the window itself
      def page? = purpose == "Document" && context == "page"

      # @return [Boolean] whether the page in the window asks for something whose answer may decide what it
      #   does; who opens a socket is not known
      def decides? = socket? || (context == "page" && self.class::DECIDING.include?(purpose))

      # @return [String] how it is sent, in a word for people
      def way
        return "socket" if socket?
        return "form" if purpose == "Document" && (form || method == "POST")
        return "window" if purpose == "Document" && context == "window"

        self.class::WAYS.fetch(purpose, "other")
      end
    end

    class Request
      # @param address [String] as a page writes it down
      # @return [String] as it is asked for: without fragment, user and password
      def self.line(address) = address.sub(/#.*/m, "").sub(%r{\A(https?://)[^/?#@]*@}i, "\\1")

      # The most that is kept of a body, in bytes.
      MOST_BODY = 1_048_576
      # What a page goes its way by: itself, and what it reads.
      DECIDING = %w[Document XHR Fetch EventSource].freeze
      WAYS = {
        "Document" => "document",
        "Stylesheet" => "style",
        "Script" => "script",
        "Font" => "font",
        "Image" => "picture",
        "Media" => "media",
        "XHR" => "request",
        "Fetch" => "request",
        "EventSource" => "event stream",
        "Ping" => "beacon",
        "CSPViolationReport" => "report",
        "Prefetch" => "prefetch"
      }.freeze
    end
  end
end
