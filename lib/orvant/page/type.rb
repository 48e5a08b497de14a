# frozen_string_literal: true

module Orvant
  module Page
    # What kind of document an answer is to a browser (MIME Sniffing, 5 and 7.1).
    module Type
      HTML = %r{\Atext/html\z}
      XML = %r{\A(?:text/xml|application/xml|[\w.+-]+/[\w.-]+\+xml)\z}
      UNKNOWN = %w[unknown/unknown application/unknown */*].freeze
      # How HTML begins, where nobody says that it is.
      BEGINNING = /\A[\t\n\f\r ]*<(?:!doctype html|html|head|script|iframe|h1|div|font|table|a|style|title|b|body|br|p|!--)[ >]/in
      # Behind these comes no page: the visitor stays where they are.
      NO_PAGE = [204, 205].freeze

      class << self
        # @param status [Integer]
        # @param headers [Hash{String => String}] lower case names
        # @param body [String] bytes
        # @return [Symbol] `:html`, `:xml` (which may hold scripts too), `:other`, or `:none` for what no
        #   browser shows
        def of(status, headers, body)
          if NO_PAGE.include?(status) || headers["content-disposition"].to_s.match?(/\A\s*attachment\b/i)
            return :none
          end

          named(essence(headers), headers, body)
        end

        # @param headers [Hash{String => String}]
        # @return [Boolean] whether the kind had to be guessed
        def guessed?(headers) = !essence(headers).include?("/") || UNKNOWN.include?(essence(headers))

        # @param content_type [String, nil]
        # @return [Boolean] whether it is no HTML, but may hold scripts and elements of any meaning
        def xml?(content_type) = ContentType.of(content_type).essence.match?(XML)

        private

        def essence(headers) = ContentType.of(headers["content-type"]).essence

        def named(essence, headers, body)
          return :html if essence.match?(HTML)
          return :xml if essence.match?(XML)
          unless guessed?(headers) && !headers["x-content-type-options"].to_s.match?(/\A\s*nosniff/i)
            return :other
          end

          body.b.match?(BEGINNING) ? :html : :other
        end
      end
    end
  end
end
