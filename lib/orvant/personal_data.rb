# frozen_string_literal: true

module Orvant
  # Recognises what tells who somebody is: mail addresses, telephone numbers, and names in fields that say so;
  # plain, percent-encoded (once or twice) or in base64. And masks it, so that it is shown nowhere. Checks and
  # masking ask it alike.
  class PersonalData
    # In any script (RFC 6531); the last label of the host has letters only.
    MAIL = /[\p{L}\p{N}][\p{L}\p{N}._%+'-]{0,63}@(?:[\p{L}\p{N}-]{1,63}\.){1,8}\p{L}{2,24}(?![\p{L}\p{N}-])/
    # The same with its sign percent-encoded, once or twice.
    ENCODED_MAIL = /[\p{L}\p{N}][\p{L}\p{N}._+'-]{0,63}(?:%40|%2540)(?:[\p{L}\p{N}-]{1,63}\.){1,8}\p{L}{2,24}(?![\p{L}\p{N}-])/i
    # Pictures for fine screens, versions of packages and addresses of repositories are written alike.
    NO_MAIL = /@\d(?:\.\d)?x\.(?:png|jpe?g|gif|webp|svg|avif|bmp)\z|@v?\d+\.\d+|\Agit@/i
    # E.164 with the usual divisions: a plus, 9 to 15 digits; or 00 and 9 digits or more.
    PHONE = /(?<![\w+])\+(?:[ ().\/-]{0,2}\d){9,15}(?!\d)|(?<![\w.,+:\/-])00[1-9](?:[ ().\/-]{0,2}\d){8,13}(?![\d\w])/
    ENCODED_PHONE = /(?<![\w+%])%2B(?:(?:%20|[ ().\/-]){0,2}\d){9,15}(?!\d)/i
    # Coordinates and dates.
    NO_PHONE = /\A\+\d{1,3}\.\d{3,}|\A\+?(?:19|20)\d\d[-.\/]\d\d[-.\/]\d\d/
    # Spelled nationally: believed only in fields that say so.
    NATIONAL_PHONE = /\A\(?(?:00|0)?\d[\d ().\/-]{4,18}\d\z/
    BASE64 = /\A[A-Za-z0-9+\/_-]{12,2000}={0,2}\z/
    # Nothing of the kind can be in a text without one of these: base64 of any length mixes letter case.
    HINT = /[@%+A-Z]|00[1-9]/
    # What a field that says so is believed to hold.
    BELIEVED = {"name" => /\p{L}{2}/, "phone" => NATIONAL_PHONE}.freeze
    PHONE_FIELDS = %w[phone tel telephone mobile msisdn phone_number phonenumber].freeze
    NAME_FIELDS = %w[first_name last_name full_name firstname lastname fullname surname given_name family_name].freeze
    MASK = "•••"
    ADDRESS = %r{https?://[^\s<>"“”„»«]+}i
    # A parameter in running text, as evidence shows it.
    PARAMETER = /(?<![^\s?&;#(“])([^=&#\s?“”]{1,60})=([^&#\s“”]+)/
    # Lists show the same texts again and again: so many are remembered, those of the usual length.
    REMEMBERED = 10_000
    USUAL_LENGTH = 300
    # Names of fields that are remembered, and their longest.
    MOST_FIELDS = 5_000
    LONGEST_FIELD = 60

    # kind: `mail`, `phone` or `name` · text: as it was found, decoded.
    Hit = Struct.new(:kind, :text, keyword_init: true)

    # @return [PersonalData] by the usual settings
    def self.usual = @usual ||= new

    # @param text [String] anything with addresses in it, as shown or exported
    # @return [String] with what is personal by the usual settings replaced by dots
    def self.mask(text) = usual.mask(text)

    # @param document [Hash] `kinds` looked for and further `name_fields` and `phone_fields`
    def initialize(document = {})
      @kinds = document.fetch("kinds", %w[mail phone name])
      @fields = Memory.new(MOST_FIELDS)
      @masked = Memory.new(REMEMBERED)
      @telling = {
        "name" => NAME_FIELDS + document.fetch("name_fields", []),
        "phone" => PHONE_FIELDS + document.fetch("phone_fields", [])
      }.slice(*@kinds).transform_values { |names| names.to_set { |name| key(name) } }
    end

    # @param raw [String] as written
    # @param field [String, nil] the name of its parameter
    # @return [Hit, nil] the first thing that is personal
    def find(raw, field: nil)
      said = field && by_field(raw, field)
      return said if said
      return unless raw.match?(HINT)

      forms(raw).each { |text| plain(text)&.then { |hit| return hit } }
      nil
    end

    # @param text [String] anything with addresses in it, as shown or exported
    # @return [String] with what is personal replaced by dots: the value alone, never a host, a path or what
    #   follows; user names and passwords of addresses too
    def mask(text)
      return text unless text.match?(/[@%+=]|00/) || text.match?(BASE64)
      return text unless text.valid_encoding?

      (text.size > USUAL_LENGTH) ? hide(text) : @masked.fetch(text) { hide(text) }
    end

    private

    def hide(text)
      return MASK if text.match?(BASE64) && find(text)

      pieces = text.split(/(#{ADDRESS})/o)
      pieces.each_with_index.map { |piece, index| index.odd? ? mask_address(piece) : mask_words(piece) }.join
    end

    def by_field(raw, field)
      kinds = (field.size > LONGEST_FIELD) ? told_by(field) : @fields.fetch(field) { told_by(field) }
      return if kinds.empty?

      value = Address::Pair.decode(raw).strip
      kind = kinds.find { |one| value.match?(BELIEVED.fetch(one)) }
      Hit.new(kind: kind, text: value) if kind
    end

    # @return [Array<String>] kinds of what a field with this name may hold
    def told_by(field) = @telling.filter_map { |kind, names| kind if names.include?(key(field)) }

    # A raw plus is a blank once decoded, but may have been meant as it stands.
    def forms(raw)
      decoded = Address::Pair.decode(raw)
      found = [raw, decoded]
      found << Address::Pair.decode(decoded) if decoded.match?(/%\h\h/)
      found << Address::Pair.decode(found.last) if found.last.match?(/%\h\h/)
      opened = decoded.tr(" ", "+").then { |text| base64(text) if text.match?(BASE64) }
      found << opened if opened
      found.uniq
    end

    def base64(text)
      opened = text.tr("-_", "+/").unpack1("m").force_encoding(Encoding::UTF_8)
      opened if opened.valid_encoding? && opened.match?(/\A[[:print:]]+\z/)
    end

    def plain(text)
      mail = mails(text).first if @kinds.include?("mail") && text.include?("@")
      return Hit.new(kind: "mail", text: mail) if mail

      phone = phones(text).first if @kinds.include?("phone")
      Hit.new(kind: "phone", text: phone) if phone
    end

    def mails(text) = text.scan(MAIL).reject { |one| one.match?(NO_MAIL) }

    def phones(text) = text.scan(PHONE).reject { |one| one.match?(NO_PHONE) }

    # Fields are compared without brackets and dividers.
    def key(name) = name.downcase.gsub(/[^\p{L}\d]+/, "")

    def mask_address(text)
      head, query, fragment = text.match(/\A([^?#]*)(\?[^#]*)?(#.*)?\z/m).captures
      scheme, authority, path = head.match(%r{\A(https?://)([^/]*)(.*)\z}im).captures
      [
        scheme,
        mask_authority(authority),
        mask_path(path),
        query && mask_parameters(query),
        fragment && mask_parameters(fragment)
      ].join
    end

    def mask_authority(text)
      user, at, host = text.rpartition("@")
      return text if at.empty?

      "#{MASK}#{":#{MASK}" if user.include?(":")}@#{host}"
    end

    def mask_path(text) = text.split("/", -1).map { |segment| find(segment) ? MASK : segment }.join("/")

    # Behind `?`, and behind `#` where a route or parameters stand.
    def mask_parameters(text)
      text.split(/([?&#])/, -1).map do |part|
        name, equals, value = part.partition("=")
        next mask_path(part) if equals.empty?

        find(value, field: Address::Pair.decode(name)) ? "#{name}=#{MASK}" : part
      end.join
    end

    def mask_words(text)
      text = text.gsub(PARAMETER) do |part|
        find($2, field: Address::Pair.decode($1)) ? "#{$1}=#{MASK}" : part
      end
      [
        [MAIL, NO_MAIL],
        [ENCODED_MAIL, NO_MAIL],
        [PHONE, NO_PHONE],
        [ENCODED_PHONE, NO_PHONE]
      ].reduce(text) do |masked, (pattern, unless_it_is)|
        masked.gsub(pattern) { |one| one.match?(unless_it_is) ? one : MASK }
      end
    end
  end
end
