# frozen_string_literal: true

module Orvant
  # One web address, kept to the byte as it was seen, with its parts by RFC 3986 and its query as ordered
  # pairs.
  #
  #   address = Orvant::Address.parse("http://www.skerryline.example/day-pass?utm_source=island-letter")
  #   address.pairs.first.name # => "utm_source"
  class Address
    # The appendix B expression of RFC 3986, which splits any text.
    PARTS = %r{\A(?:([^:/?#]+):)?(?://([^/?#]*))?([^?#]*)(?:\?([^#]*))?(?:#(.*))?\z}m
    # Longer addresses are refused: servers commonly stop at 8 kB.
    MAX_LENGTH = 32_768
    SCHEMES = %w[http https].freeze
    # So many are remembered by their text.
    REMEMBERED = 200

    attr_reader :raw, :scheme, :authority, :path, :query, :fragment

    # @param text [String] an absolute http or https address; white space around it is not part of it
    # @return [Address]
    # @raise [Error::UnusableAddress] with a sentence that says why
    def self.parse(text)
      raw = text.to_s
      if raw.valid_encoding? && raw.match?(/\A[ \t\r\n]|[ \t\r\n]\z/)
        raw = raw.gsub(/\A[ \t\r\n]+|[ \t\r\n]+\z/, "")
      end
      reason = Unusable.text_reason(raw)
      raise Error::UnusableAddress, reason if reason

      address = new(raw)
      reason = Unusable.parts_reason(address)
      raise Error::UnusableAddress, reason if reason

      address
    end

    # Whoever follows and judges a link asks again and again for the parts of the same few addresses.
    #
    # @param raw [String] text that is kept as it is; nothing is judged here
    # @return [Address] the one that was made of the same text lately, or a new one
    def self.of(raw) = (@known ||= Memory.new(REMEMBERED)).fetch(raw) { new(raw) }

    # @param raw [String] text that is kept as it is; nothing is judged here
    def initialize(raw)
      @raw = raw.frozen? ? raw : raw.dup.freeze
      @scheme, @authority, @path, @query, @fragment = PARTS.match(@raw)&.captures
    end

    # @return [String] the host without user part and port, in the form in which hosts are compared; "" where
    #   there is none
    def host = @host ||= HostName.normal(written_host)

    # @return [String] the host as it is written
    def written_host
      @written_host ||=
        if authority.to_s.match?(/[@:]/)
          authority.sub(/\A.*@/m, "").sub(/:\d*\z/, "")
        else
          authority.to_s
        end
    end

    # @return [Integer] the port, 80 or 443 where none is written
    def port
      written = authority.to_s[/:(\d+)\z/, 1]
      if written
        written.to_i
      else
        ((scheme.to_s.downcase == "https") ? 443 : 80)
      end
    end

    # @return [String] the path as a server reads it: decoded, without dot segments, one slash where several
    #   stand
    def plain_path = NormalForm.remove_dots(Pair.decode(path.gsub("+", "%2B"))).squeeze("/")

    # @return [Array<Address>] those that stand whole in values of its parameters, as on an out-link
    def within = @within ||= pairs.map(&:value).grep(%r{\Ahttps?://}i).map { |text| Address.new(text) }

    # @return [Array<Pair>] the query's parameters in their order, as written
    def pairs
      @pairs ||= Pair.split(query)
    end

    # @param name [String] a decoded parameter name, letter case exact
    # @return [Array<Pair>] every occurrence
    def occurrences(name)
      pairs.select { |pair| pair.name == name }
    end

    # @return [Boolean] whether it is built as most are: one question mark, no fragment, every parameter with
    #   its `=`
    def plainly_built?
      return @plainly_built if defined?(@plainly_built)

      @plainly_built = !(raw.include?("#") ||
        raw.include?(";") ||
        path.include?("&") ||
        query.to_s.include?("?")) &&
        pairs.all? { |pair| pair.raw.include?("=") }
    end

    # @return [String] host and path: the page, whatever its parameters
    def page
      "#{host}#{path.empty? ? "/" : path}"
    end

    # @return [String] the form in which two addresses are one link: RFC 3986, 6.2.2 and 6.2.3
    def normal_form
      @normal_form ||= NormalForm.of(self)
    end

    # @return [Address] what is requested: the same without its fragment
    def without_fragment = fragment ? self.class.new(raw.sub(/#.*\z/m, "")) : self

    # @param edits [Hash{Pair => String, Pair::Written, nil}] new value of a pair, nil to remove it
    # @param names [Hash{Pair => String}] new decoded name of a pair
    # @param added [Array<Array(String, String)>] names and values to append
    # @return [Address] with only the named pairs changed: the order and the bytes of all else stay
    def with(edits: {}, names: {}, added: [])
      return self if edits.empty? && names.empty? && added.empty?

      number = -1
      written = query.to_s.split("&", -1).filter_map do |part|
        next part if part.empty?

        pair = pairs[number += 1]
        next if edits.key?(pair) && edits[pair].nil?

        pair.write(name: names[pair], value: edits[pair])
      end
      written.pop if added.any? && written.last == ""
      self.class.new(join(written + added.map { |name, value|
        "#{Pair.encode(name)}=#{Pair.written(value)}"
      }))
    end

    def to_s = raw

    def ==(other) = other.is_a?(Address) && other.raw == raw
    alias_method :eql?, :==

    def hash = raw.hash

    private

    def join(written)
      text = "#{scheme}://#{authority}#{path}"
      text += "?#{written.join("&")}" if written.any?
      fragment ? "#{text}##{fragment}" : text
    end
  end
end
