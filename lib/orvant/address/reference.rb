# frozen_string_literal: true

module Orvant
  class Address
    # Resolves what a server or page writes as a target the way browsers do (WHATWG URL, 4.4 basic parser, for
    # http and https): blanks and control characters are stripped, backslashes are slashes, raw characters are
    # escaped, hosts become lower case ASCII.
    module Reference
      BLANK = /[\x00-\x20]/
      STRIPPED = /\A[\x00-\x20]+|[\x00-\x20]+\z|[\t\r\n]/
      # Characters that browsers escape in a path, beyond those outside ASCII (WHATWG URL, 1.3).
      PATH_ESCAPED = /[\x00-\x20"#<>?^`{|}\x7f-\xff]/n
      QUERY_ESCAPED = /[\x00-\x20"#<>'\x7f-\xff]/n
      FRAGMENT_ESCAPED = /[\x00-\x20"<>`\x7f-\xff]/n
      # What begins with anything else before its colon is a path.
      SCHEME = /\A[A-Za-z][A-Za-z0-9+.-]*:/
      WEB = /\A[Hh][Tt][Tt][Pp][Ss]?:/
      # Addresses that a browser requests as they are written, which most are.
      SETTLED = %r{\Ahttps?://[a-z0-9]+(?:[.-][a-z0-9]+)*(?:/(?!\.|%2[Ee])[\w!$%&()*+,.:;=@~-]*)+(?:\?[\w!$%&()*+,./:;=?@|~-]*)?\z}

      class << self
        # @param reference [String] a Location header, `href` or address, as written
        # @param base [Address, nil] the address it stands on
        # @param encoding [Encoding] of the page on which it stands: its query is sent in it
        # @return [Address] absolute, in the form in which a browser requests and shows it; the base's
        #   fragment is inherited where the reference has none (RFC 9110, 10.2.2)
        # @raise [Error::UnusableAddress] where no http or https address results
        def resolve(reference, base = nil, encoding: Encoding::UTF_8)
          text = clean(reference)
          return Address.of(text) if settled?(text, base)

          scheme, authority, path, query, fragment = split(slashes(text, base))
          if scheme && !SCHEMES.include?(scheme.downcase)
            raise Error::UnusableAddress,
              "The target “#{readable(text)[0, Cut::QUOTE]}” is no web address (http or https)."
          end

          query = in_encoding(query, encoding) if query && query.encoding == Encoding::UTF_8
          parts = merge([scheme, authority, path, query], base)
          build(*parts, fragment || base&.fragment)
        end

        private

        def settled?(text, base)
          base&.fragment.nil? && text.match?(SETTLED) && text.length <= MAX_LENGTH
        end

        # What the page's encoding cannot hold is sent as a reference (WHATWG URL, 1.3, percent-encode after
        # encoding). Pages in UTF-16 send UTF-8.
        def in_encoding(text, encoding)
          return text if encoding == Encoding::UTF_8 || encoding.name.start_with?("UTF-16")

          text.encode(encoding, fallback: ->(sign) { "%26%23#{sign.ord}%3B" }).b
        rescue EncodingError
          text
        end

        def clean(reference)
          text = reference.to_s.dup.force_encoding(Encoding::UTF_8)
          text = text.b unless text.valid_encoding?
          text.match?(BLANK) ? text.gsub(STRIPPED, "") : text
        end

        def split(text)
          return PARTS.match(text).captures if text.match?(SCHEME) || !text[%r{\A[^/?#]*}].include?(":")

          [nil, *PARTS.match("./#{text}").captures.drop(1)]
        end

        # Browsers read the base's own scheme as none where no two slashes follow, backslashes as slashes up
        # to the query, and any number of slashes after a web scheme as two.
        def slashes(text, base)
          if base && text[%r{\A[^:/?#]*:(?!//)}].to_s.downcase == "#{base.scheme}:"
            return relative(text[(base.scheme.length + 1)..])
          end
          return text.sub(%r{\A([^:]+:)[/\\]*([^?#]*)}) { "#{$1}//#{$2.tr("\\", "/")}" } if text.match?(WEB)

          (base && !text.match?(SCHEME)) ? relative(text) : text
        end

        def relative(text)
          text = text.sub(/\A[^?#]*/) { |head| head.tr("\\", "/") }.sub(%r{\A/{3,}}, "//")
          text.match?(SCHEME) ? "./#{text}" : text
        end

        def merge((scheme, authority, path, query), base)
          return [scheme, authority, path, query] if scheme
          raise Error::UnusableAddress, "The address does not begin with http:// or https://." unless base
          return [base.scheme, authority, path, query] if authority
          return [base.scheme, base.authority, base.path, query || base.query] if path.empty?

          unless path.start_with?("/")
            path = base.path[%r{\A.*/}m].to_s.then { |folder| "#{folder.empty? ? "/" : folder}#{path}" }
          end
          [base.scheme, base.authority, path, query]
        end

        def build(scheme, authority, path, query, fragment)
          raise Error::UnusableAddress, "The target names no host." if authority.to_s.empty?

          text = "#{scheme.downcase}://#{ascii_authority(scheme, authority)}#{NormalForm.remove_dots(escape(path, PATH_ESCAPED))}"
          text << "?" << escape(query, QUERY_ESCAPED) if query
          text << "#" << escape(fragment, FRAGMENT_ESCAPED) if fragment
          Address.parse(text.force_encoding(Encoding::UTF_8))
        end

        def ascii_authority(scheme, authority)
          user, host, port = authority.match(/\A(.*@)?(.*?)(:\d*)?\z/m).captures
          user = nil if user && user.delete(":@").empty?
          host = HostName.ascii(host)
          port = port&.sub(/\A:0+(?=\d)/, ":")
          port = nil if port == ":" || port == NormalForm::DEFAULT_PORTS[scheme.downcase]
          "#{user}#{host}#{port}"
        rescue ArgumentError
          raise Error::UnusableAddress,
            "The host “#{readable(authority)[0, Cut::QUOTE]}” cannot be the name of a server."
        end

        def readable(text) = text.dup.force_encoding(Encoding::UTF_8).scrub

        def escape(text, pattern)
          text.b.gsub(pattern) { |byte| format("%%%02X", byte.ord) }.force_encoding(Encoding::UTF_8)
        end
      end
    end
  end
end
