# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Says why a redirect is there, from the two addresses it lies between.
      module Detour
        CONSENT = %r{/(?:cookie|consent|privacy-choice)[^/]*(?:/|\z)}i
        SIGN_IN = %r{/(?:log-?in|sign-?in|log-?on|auth|sso|oauth2?|anmelden|anmeldung|connexion|account/login)[^/]*(?:/|\z)}i
        VARIANT_HOST = /\A(?:m|mobile|amp|touch|wap|[a-z]{2}(?:-[a-z]{2})?)\./
        VARIANT_PATH = %r{\A/(?:m|mobile|amp|touch)(?:/|\z)|/amp/?\z}i
        CHANGES = {
          consent: "a consent page that forgets where the visitor was going",
          relay: "a short link or click counter that does not hand parameters on",
          host: "a redirect from one spelling of the host to the other",
          scheme: "a redirect from http to https", slash: "a redirect that adds or takes a trailing slash",
          language: "a redirect into a language", host_change: "a redirect to another host",
          path: "a redirect to another page"
        }.freeze

        class << self
          # @return [String] the likely reason in words
          def reason(from, to, convention) = CHANGES.fetch(change(from, to, convention))

          # @return [String] what all links lost by the same rule on the server share
          def root(from, to, convention)
            change = change(from, to, convention)
            return "#{change} #{from.host} > #{to.host}" if %i[host scheme].include?(change)

            "#{change} #{from.page}"
          end

          # @return [Symbol] one of CHANGES
          def change(from, to, convention)
            return :consent if [from, to].any? { |address| address.path.match?(CONSENT) }
            return :relay if convention.relay_hosts.cover?(from.host)
            if from.host != to.host
              return (from.host.delete_prefix("www.") == to.host.delete_prefix("www.")) ? :host : :host_change
            end
            return path_change(from.path, to.path) if from.path != to.path

            :scheme
          end

          # An address is offered to link to only where every visitor is led to it, and stays.
          #
          # @param from [Address]
          # @param to [Address]
          # @param convention [Convention]
          # @return [Boolean]
          def offerable?(from, to, convention)
            return false unless convention.ours?(to.host)
            return false if to.path.match?(CONSENT) || to.path.match?(SIGN_IN)

            !variant?(from, to) && !instead_of_page?(from, to, convention)
          end

          private

          # The home page, where a page of one's own was promised.
          def instead_of_page?(from, to, convention)
            convention.shows_own?(from.host) && to.path.match?(WrongPage::HOME) && !from.path.match?(WrongPage::HOME)
          end

          # What only visitors with a phone or of one language are sent to.
          def variant?(from, to)
            return true if change_of_path?(from, to) == :language

            [[from.host, to.host, VARIANT_HOST],
              [from.path, to.path, VARIANT_PATH]].any? do |before, after, pattern|
              after.match?(pattern) && !before.match?(pattern)
            end
          end

          def change_of_path?(from, to) = (path_change(from.path, to.path) if from.path != to.path)

          def path_change(from, to)
            return :slash if from.chomp("/") == to.chomp("/")

            to.match?(%r{\A/[a-z]{2}(-[a-z]{2})?(/|\z)}i) ? :language : :path
          end
        end
      end
    end
  end
end
