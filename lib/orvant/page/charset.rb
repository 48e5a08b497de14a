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
      # Labels that mean another encoding than the one that Ruby knows by that name, or that Ruby does not
      # know.
      LABELS = {
        Encoding::Windows_1252 => %w[ascii us-ascii iso-8859-1 iso8859-1 iso88591 iso_8859-1 iso_8859-1:1987 latin1 l1 cp819 ibm819 iso-ir-100 csisolatin1 ansi_x3.4-1968 cp1252 x-cp1252 x-user-defined],
        Encoding::Windows_1254 => %w[iso-8859-9 iso8859-9 iso_8859-9 latin5 l5 cp1254 x-cp1254 csisolatin5 iso-ir-148],
        Encoding::Windows_874 => %w[tis-620 iso-8859-11 iso8859-11 dos-874],
        Encoding::ISO_8859_2 => %w[latin2 l2 iso8859-2 iso_8859-2 csisolatin2 iso-ir-101],
        Encoding::ISO_8859_5 => %w[cyrillic iso8859-5 iso_8859-5],
        Encoding::ISO_8859_7 => %w[greek greek8 iso8859-7 iso_8859-7 ecma-118],
        Encoding::ISO_8859_8 => %w[hebrew iso-8859-8-i iso-8859-8-e iso8859-8 logical visual],
        Encoding::ISO_8859_15 => %w[latin9 l9 iso8859-15 iso_8859-15],
        Encoding::Windows_1250 => %w[cp1250 x-cp1250],
        Encoding::Windows_1251 => %w[cp1251 x-cp1251],
        Encoding::Windows_1253 => %w[cp1253],
        Encoding::Windows_1255 => %w[cp1255],
        Encoding::Windows_1256 => %w[cp1256],
        Encoding::Windows_1257 => %w[cp1257],
        Encoding::Windows_1258 => %w[cp1258],
        Encoding::GB18030 => %w[gb2312 gb_2312 gb_2312-80 gbk x-gbk chinese csgb2312 iso-ir-58],
        Encoding::Big5_UAO => %w[big5 big5-hkscs cn-big5 csbig5 x-x-big5],
        Encoding::Windows_31J => %w[shift_jis shift-jis sjis x-sjis ms_kanji ms932 csshiftjis],
        Encoding::CP51932 => %w[euc-jp x-euc-jp cseucpkdfmtjapanese],
        Encoding::CP949 => %w[euc-kr ks_c_5601-1987 ks_c_5601-1989 ksc5601 ksc_5601 korean windows-949 cseuckr],
        Encoding::KOI8_R => %w[koi koi8 koi8_r cskoi8r],
        Encoding::KOI8_U => %w[koi8-ru],
        Encoding::UTF_16LE => %w[utf-16 ucs-2 unicode csunicode iso-10646-ucs-2],
        Encoding::UTF_8 => %w[utf8 unicode-1-1-utf-8 x-unicode20utf8]
      }.flat_map { |encoding, labels| labels.map { |label| [label, encoding] } }.to_h.freeze
      META = /<meta[\s\/][^>]*?charset\s*=\s*["']?\s*([A-Za-z0-9_:.-]+)/in
      COMMENT = /<!--.*?(?:-->|\z)/mn

      class << self
        # @param bytes [String] of the page
        # @param content_type [String, nil] the header's value
        # @param language [String, nil] the visitor's, as a tag (RFC 5646): it decides where nobody says
        # @return [Encoding]
        def of(bytes, content_type = nil, language: nil)
          mark(bytes) ||
            named(content_type.to_s[/charset\s*=\s*["']?\s*([^\s"';,]+)/i, 1]) ||
            said(bytes) ||
            usual(language.to_s.downcase)
        end

        # @param bytes [String]
        # @param encoding [Encoding]
        # @return [String] in UTF-8; what means nothing becomes U+FFFD
        def decode(bytes, encoding)
          length = MARKS.keys.find { |mark| bytes.byteslice(0, 3).b.start_with?(mark) }&.bytesize.to_i
          text = bytes.byteslice(length..).dup.force_encoding(encoding)
          if encoding == Encoding::UTF_8
            text.scrub
          else
            text.encode(Encoding::UTF_8, invalid: :replace, undef: :replace, replace: "\uFFFD")
          end
        end

        # @param label [String, nil]
        # @return [Encoding, nil]
        def named(label)
          text = label.to_s.downcase.strip
          return if text.empty?

          LABELS[text] ||
            Encoding.find(text).then { |found|
              found unless found.dummy? ||
                found == Encoding::US_ASCII ||
                found == Encoding::BINARY
            }
        rescue ArgumentError
          nil
        end

        private

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
