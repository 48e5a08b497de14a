# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds links whose server cannot be reached: no name, no connection, a bad certificate, a time-out.
      class Unreachable < EndingCheck
        describes "trail/unreachable", weight: "breaks",
          why: "A link to a server that does not answer brings nobody, and reports show nothing that would tell.",
          fails: %w[http://www.skerryline.example/day-pass unreachable],
          passes: %w[http://www.skerryline.example/day-pass 200]

        private

        # What the advertiser gives out itself is to lead somewhere, whoever is there.
        def concerned? = subject.concerns?

        # Each kind of failure is mended in another way.
        ACTIONS = {
          /certificate has expired|certificate is/ => "Renew the certificate of %s, or change the links.",
          /secure connection/ => "Let %s offer a secure connection that browsers trust, or change the links.",
          /does not resolve|not resolve/ => "Let the name %s resolve, or change the links.",
          /refused the connection/ => "Let a server answer at %s, or change the links.",
          /#{Net::Door::SILENT}|in time|more than \d+ s/ => "Let %s answer in time, or change the links."
        }.freeze
        private_constant :ACTIONS

        def action
          said = ACTIONS.find { |pattern, _| pattern.match?(subject.trail.reason.to_s) }&.last
          format(said || "Let the server of %s answer properly, or change the links.", subject.addresses.last.host)
        end

        def ending? = subject.trail.outcome == "unreachable"

        def root = subject.addresses.last.host
      end
    end
  end
end
