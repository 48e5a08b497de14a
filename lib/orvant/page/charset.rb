# frozen_string_literal: true

module Orvant
  module Page
    # Tells in which character set a page is written, and reads it (WHATWG Encoding; HTML Living Standard,
    # 13.2.3.2 and 13.2.3.3).
    module Charset
      # What browsers take where nobody says, and where nobody says in a page for readers of these languages
      # (HTML Living Standard, 13.2.3.2).
      USUAL = Encoding::Windows_1252
      USUAL_OF = {
        Encoding::Windows_1250 => %w[cs hr sk], Encoding::Windows_1251 => %w[ba be bg kk ky mk ru sah sr tg tt uk], Encoding::Windows_1254 => %w[az ku tr],
        Encoding::Windows_1255 => %w[he], Encoding::Windows_1256 => %w[ar fa], Encoding::Windows_1257 => %w[et lt lv], Encoding::Windows_1258 => %w[vi],
        Encoding::ISO_8859_2 => %w[hu pl sl], Encoding::ISO_8859_7 => %w[el], Encoding::Windows_31J => %w[ja], Encoding::CP949 => %w[ko],
        Encoding::Windows_874 => %w[th], Encoding::GB18030 => %w[zh zh-hans zh-cn zh-sg], Encoding::Big5_UAO => %w[zh-hant zh-tw zh-hk zh-mo]
      }.flat_map { |encoding, languages| languages.map { |language| [language, encoding] } }.to_h.freeze
      # How far browsers look for a meta that names it, in bytes; they look on to the end of the head.
      LOOKED_AT = 1_024
      MARKS = {"\xEF\xBB\xBF".b => Encoding::UTF_8, "\xFE\xFF".b => Encoding::UTF_16BE, "\xFF\xFE".b => Encoding::UTF_16LE}.freeze
      # What browsers do not read at all, since it could be made to mean anything.
      UNREAD = Encoding::BINARY
      # Every label that browsers know, and no other (WHATWG Encoding, 4.2).
      LABELS = {
        Encoding::UTF_8 => %w[unicode-1-1-utf-8 unicode11utf8 unicode20utf8 utf-8 utf8 x-unicode20utf8],
        Encoding::IBM866 => %w[866 cp866 csibm866 ibm866],
        Encoding::ISO_8859_2 => %w[csisolatin2 iso-8859-2 iso-ir-101 iso8859-2 iso88592 iso_8859-2 iso_8859-2:1987 l2 latin2],
        Encoding::ISO_8859_3 => %w[csisolatin3 iso-8859-3 iso-ir-109 iso8859-3 iso88593 iso_8859-3 iso_8859-3:1988 l3 latin3],
        Encoding::ISO_8859_4 => %w[csisolatin4 iso-8859-4 iso-ir-110 iso8859-4 iso88594 iso_8859-4 iso_8859-4:1988 l4 latin4],
        Encoding::ISO_8859_5 => %w[csisolatincyrillic cyrillic iso-8859-5 iso-ir-144 iso8859-5 iso88595 iso_8859-5 iso_8859-5:1988],
        Encoding::ISO_8859_6 => %w[arabic asmo-708 csiso88596e csiso88596i csisolatinarabic ecma-114 iso-8859-6 iso-8859-6-e iso-8859-6-i iso-ir-127 iso8859-6 iso88596 iso_8859-6 iso_8859-6:1987],
        Encoding::ISO_8859_7 => %w[csisolatingreek ecma-118 elot_928 greek greek8 iso-8859-7 iso-ir-126 iso8859-7 iso88597 iso_8859-7 iso_8859-7:1987 sun_eu_greek],
        Encoding::ISO_8859_8 => %w[csiso88598e csisolatinhebrew hebrew iso-8859-8 iso-8859-8-e iso-ir-138 iso8859-8 iso88598 iso_8859-8 iso_8859-8:1988 visual csiso88598i iso-8859-8-i logical],
        Encoding::ISO_8859_10 => %w[csisolatin6 iso-8859-10 iso-ir-157 iso8859-10 iso885910 l6 latin6],
        Encoding::ISO_8859_13 => %w[iso-8859-13 iso8859-13 iso885913],
        Encoding::ISO_8859_14 => %w[iso-8859-14 iso8859-14 iso885914],
        Encoding::ISO_8859_15 => %w[csisolatin9 iso-8859-15 iso8859-15 iso885915 iso_8859-15 l9],
        Encoding::ISO_8859_16 => %w[iso-8859-16],
        Encoding::KOI8_R => %w[cskoi8r koi koi8 koi8-r koi8_r],
        Encoding::KOI8_U => %w[koi8-ru koi8-u],
        Encoding::MACROMAN => %w[csmacintosh mac macintosh x-mac-roman],
        Encoding::Windows_874 => %w[dos-874 iso-8859-11 iso8859-11 iso885911 tis-620 windows-874],
        Encoding::Windows_1250 => %w[cp1250 windows-1250 x-cp1250],
        Encoding::Windows_1251 => %w[cp1251 windows-1251 x-cp1251],
        Encoding::Windows_1252 => %w[ansi_x3.4-1968 ascii cp1252 cp819 csisolatin1 ibm819 iso-8859-1 iso-ir-100 iso8859-1 iso88591 iso_8859-1 iso_8859-1:1987 l1 latin1 us-ascii windows-1252 x-cp1252 x-user-defined],
        Encoding::Windows_1253 => %w[cp1253 windows-1253 x-cp1253],
        Encoding::Windows_1254 => %w[cp1254 csisolatin5 iso-8859-9 iso-ir-148 iso8859-9 iso88599 iso_8859-9 iso_8859-9:1989 l5 latin5 windows-1254 x-cp1254],
        Encoding::Windows_1255 => %w[cp1255 windows-1255 x-cp1255],
        Encoding::Windows_1256 => %w[cp1256 windows-1256 x-cp1256],
        Encoding::Windows_1257 => %w[cp1257 windows-1257 x-cp1257],
        Encoding::Windows_1258 => %w[cp1258 windows-1258 x-cp1258],
        Encoding::MACCYRILLIC => %w[x-mac-cyrillic x-mac-ukrainian],
        Encoding::GB18030 => %w[chinese csgb2312 csiso58gb231280 gb2312 gb_2312 gb_2312-80 gbk iso-ir-58 x-gbk gb18030],
        Encoding::Big5_UAO => %w[big5 big5-hkscs cn-big5 csbig5 x-x-big5],
        Encoding::CP51932 => %w[cseucpkdfmtjapanese euc-jp x-euc-jp],
        Encoding::CP50221 => %w[csiso2022jp iso-2022-jp],
        Encoding::Windows_31J => %w[csshiftjis ms932 ms_kanji shift-jis shift_jis sjis windows-31j x-sjis],
        Encoding::CP949 => %w[cseuckr csksc56011987 euc-kr iso-ir-149 korean ks_c_5601-1987 ks_c_5601-1989 ksc5601 ksc_5601 windows-949],
        Encoding::UTF_16BE => %w[unicodefffe utf-16be],
        Encoding::UTF_16LE => %w[csunicode iso-10646-ucs-2 ucs-2 unicode unicodefeff utf-16 utf-16le],
        UNREAD => %w[csiso2022kr hz-gb-2312 iso-2022-cn iso-2022-cn-ext iso-2022-kr replacement]
      }.flat_map { |encoding, labels| labels.map { |label| [label, encoding] } }.to_h.freeze
      # Ruby does not read this one, but one that differs in few signs.
      READ_AS = {Encoding::Windows_1258 => Encoding::Windows_1252}.freeze
      # Signs that browsers take for others than Ruby does.
      MEANT = {
        Encoding::Windows_1258 => ["ŠšŽžÃÌÐÒÕÝÞãìðòõýþ", "\u008A\u009A\u008E\u009EĂ\u0300Đ\u0309ƠƯ\u0303ă\u0301đ\u0323ơư₫"],
        Encoding::KOI8_U => %w[╝╬ ўЎ], Encoding::MacRoman => ["\u2126¤", "Ω€"], Encoding::MacCyrillic => %w[¢∂¤ Ґґ€]
      }.freeze
      CONTROLS = (0x80..0x9F)
      UNKNOWN = "\uFFFD"
      META = /<meta[\s\/][^>]*?charset\s*=\s*["']?\s*([A-Za-z0-9_:.-]+)/in
      COMMENT = /<!--.*?(?:-->|\z)/mn

      class << self
        # @param bytes [String] of the page
        # @param content_type [String, nil] the header's value
        # @param language [String, nil] the visitor's, as a tag (RFC 5646): it decides where nobody says
        # @return [Encoding]
        def of(bytes, content_type = nil, language: nil)
          told(bytes, content_type) || usual(language.to_s.downcase)
        end

        # @param bytes [String] of the page
        # @param content_type [String, nil] the header's value
        # @return [Encoding, nil] nil where nobody says
        def told(bytes, content_type = nil)
          mark(bytes) || named(ContentType.of(content_type).charset) || said(bytes)
        end

        # @param bytes [String]
        # @param encoding [Encoding]
        # @return [String] in UTF-8; what means nothing becomes U+FFFD
        def decode(bytes, encoding)
          length = MARKS.keys.find { |mark| bytes.byteslice(0, 3).b.start_with?(mark) }&.bytesize.to_i
          text = bytes.byteslice(length..).dup.force_encoding(encoding)
          case encoding
          when Encoding::UTF_8 then text.scrub
          when UNREAD then text.empty? ? "" : UNKNOWN
          else
            read = of_bytes(text.force_encoding(READ_AS.fetch(encoding, encoding)))
            MEANT.key?(encoding) ? read.tr(*MEANT.fetch(encoding)) : read
          end
        end

        # @param label [String, nil] in any case, blanks around it
        # @return [Encoding, nil] UNREAD for what is not read
        def named(label) = LABELS[label.to_s.downcase.gsub(/\A[\t\n\f\r ]+|[\t\n\f\r ]+\z/, "")]

        private

        # What an encoding leaves open is a control character to browsers where those stand.
        def of_bytes(text)
          text.encode(Encoding::UTF_8, invalid: :replace, replace: UNKNOWN, fallback: ->(sign) {
            (sign.bytesize == 1 && CONTROLS.cover?(sign.getbyte(0))) ? [sign.getbyte(0)].pack("U") : UNKNOWN
          })
        end

        def usual(language) = USUAL_OF[language] || USUAL_OF.fetch(language[/\A[a-z]+/].to_s, USUAL)

        def mark(bytes) = MARKS.find { |mark, _| bytes.byteslice(0, 3).b.start_with?(mark) }&.last

        # A page that could be read so far is not in UTF-16, whatever its meta says.
        def said(bytes)
          text = bytes.b
          head = text[0, [text.index(Net::Body::BODY) || text.bytesize, LOOKED_AT].max]
          found = named(head.gsub(COMMENT, "")[META, 1])
          found&.name&.start_with?("UTF-16") ? Encoding::UTF_8 : found
        end
      end
    end
  end
end
