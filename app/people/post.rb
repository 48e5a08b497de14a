# frozen_string_literal: true

require "mail"
require "uri"

# Sends what a person must get where they are, through the mail server that was set.
module Post
  class << self
    # @return [Boolean] whether there is a mail server
    def set? = !Settings["ORVANT_SMTP"].to_s.empty?

    # @param to [String]
    # @param subject [String]
    # @param text [String]
    # @return [Boolean] whether the mail server took it
    def send(to:, subject:, text:)
      return false unless set?

      Mail.new(from: Settings["ORVANT_MAIL_FROM"], to: to, subject: subject, body: text, charset: "UTF-8")
        .tap { |mail| mail.delivery_method(:smtp, server) }.deliver!
      true
    rescue SystemCallError, IOError, Timeout::Error, Net::ProtocolError, OpenSSL::SSL::SSLError => error
      warn "The mail server did not take a message: #{error.class}: #{error.message[0, Orvant::Cut::FAILURE]}"
      false
    end

    private

    def server
      uri = URI.parse(Settings["ORVANT_SMTP"])
      {address: uri.host,
       port: uri.port || ((uri.scheme == "smtps") ? 465 : 587),
       user_name: uri.user && URI.decode_www_form_component(uri.user),
       password: uri.password && URI.decode_www_form_component(uri.password),
       authentication: uri.user && :plain,
       tls: uri.scheme == "smtps",
       open_timeout: 10,
       read_timeout: 20}.compact
    end
  end
end
