# frozen_string_literal: true

module Orvant
  # Recognises what tells who somebody is: mail addresses, telephone numbers, and names in fields that say so; plain, percent-encoded
  # (once or twice) or in base64. And masks it, so that it is shown nowhere.
  class PersonalData
    MAIL = /[A-Za-z0-9][A-Za-z0-9._%+-]{0,63}@[A-Za-z0-9-]{1,63}(?:\.[A-Za-z0-9-]{1,63}){1,8}/
    # E.164 with the usual divisions: a plus, 9 to 15 digits.
    PHONE = /(?<![\w+])\+(?:[ ().\/-]{0,2}\d){9,15}(?!\d)/
    # Spelled nationally: believed only in fields that say so.
    NATIONAL_PHONE = /\A\(?(?:00|0)?\d[\d ().\/-]{4,18}\d\z/
    BASE64 = /\A[A-Za-z0-9+\/_-]{12,2000}={0,2}\z/
    # Nothing of the kind can be in a text without one of these: base64 of any length mixes letter case.
    HINT = /[@%+A-Z]/
    PHONE_FIELDS = %w[phone tel telephone mobile msisdn phone_number phonenumber].freeze
    NAME_FIELDS = %w[first_name last_name full_name firstname lastname fullname surname given_name family_name].freeze
    MAIL_FIELDS = %w[email e_mail mail email_address].freeze
    MASK = "•••"

    # kind: `mail`, `phone` or `name` · text: as it was found, decoded.
    Hit = Struct.new(:kind, :text, keyword_init: true)

    # @return [PersonalData] by the usual settings
    def self.usual = @usual ||= new

    # @param text [String] anything with addresses in it, as shown or exported
    # @return [String] with what is personal replaced by dots
    def self.mask(text) = usual.mask(text)

    # @param document [Hash] `kinds` looked for and further `name_fields` and `phone_fields`
    def initialize(document = {})
      @kinds = document.fetch("kinds", %w[mail phone name])
      @keys = {}
      @names = (NAME_FIELDS + document.fetch("name_fields", [])).to_h { |name| [key(name), true] }
      @phones = (PHONE_FIELDS + document.fetch("phone_fields", [])).to_h { |name| [key(name), true] }
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

    # @param text [String]
    # @return [String]
    def mask(text)
      return text unless text.match?(/[@%+=]/) || text.match?(BASE64)
      return text unless text.valid_encoding?

      return MASK if text.match?(BASE64) && find(text)

      text.gsub(/(?<=[?&;#])([^=&#\s?]{1,60})=([^&#\s]+)/) { "#{$1}=#{find($2, field: Address::Pair.decode($1)) ? MASK : $2}" }
        .gsub(/[A-Za-z0-9][A-Za-z0-9._+-]{0,63}(?:@|%40|%2540)[A-Za-z0-9-]{1,63}(?:\.[A-Za-z0-9-]{1,63}){1,8}/i, MASK)
        .gsub(/(?<![\w+%])(?:\+|%2B)(?:(?:%20|[ ().\/-]){0,2}\d){9,15}(?!\d)/i, MASK)
    end

    private

    def by_field(raw, field)
      name = (@keys[field] ||= key(field)) if field.match?(/\A\w{2,40}\z/) && @keys.size < 5_000
      name ||= key(field)
      return unless @names.key?(name) || @phones.key?(name)

      value = Address::Pair.decode(raw).strip
      return Hit.new(kind: "name", text: value) if @names.key?(name) && @kinds.include?("name") && value.match?(/\p{L}{2}/)

      Hit.new(kind: "phone", text: value) if @phones.key?(name) && @kinds.include?("phone") && value.match?(NATIONAL_PHONE)
    end

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
      mail = text[MAIL] if @kinds.include?("mail") && text.include?("@")
      return Hit.new(kind: "mail", text: mail) if mail

      phone = text[PHONE] if @kinds.include?("phone") && text.include?("+")
      Hit.new(kind: "phone", text: phone) if phone
    end

    def key(name) = name.downcase.gsub(/[^a-z0-9]+/, "_")
  end
end
