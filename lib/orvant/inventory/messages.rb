# frozen_string_literal: true

require "mail"

module Orvant
  module Inventory
    # Reads sent messages: `.eml` files (RFC 5322, MIME), HTML files, or a ZIP file of them.
    class Messages
      MAX_MESSAGE = 25 * 1024 * 1024
      MAX_LINKS = 5_000
      HEADER = /\A(?:From [^\n]*\n)?[A-Za-z][A-Za-z0-9-]*:[ \t]/n
      MULTIPART = %r{^content-type:\s*multipart/}ni
      # Parts that hold markup: type => what it is called.
      MARKUP = {"text/html" => "HTML part", "text/x-amp-html" => "interactive part"}.freeze
      FILES = /\.(eml|html?|msg\.txt)\z/i

      # @param bytes [String]
      # @param filename [String] names an HTML file, which has no subject
      # @param owner [String] who can change the messages
      # @param finder [AddressText] finds the addresses of plain-text parts
      # @return [Collected] links as sightings; unsubscribe, mail and phone links set apart
      # @raise [Error::UnusableTable]
      def self.read(bytes, filename: "message", owner: "", finder: AddressText.new)
        new(owner, finder).read(bytes.b, filename)
      end

      def initialize(owner, finder)
        @owner = owner
        @finder = finder
        @collected = Collected.new
      end

      # @return [Collected]
      def read(bytes, filename)
        bytes.start_with?(Archive::SIGN) ? read_archive(bytes) : read_one(bytes, filename)
        @collected
      end

      private

      def read_archive(bytes)
        Archive.open(bytes) do |archive|
          files = archive.entries.select { |entry| entry.file? && entry.name.match?(FILES) }
          raise Error::UnusableTable, "The ZIP file holds no message (.eml or .html)." if files.empty?

          files.each { |entry| read_file(entry) }
        end
      end

      def read_file(entry)
        read_one(
          entry.get_input_stream.read(MAX_MESSAGE + 1).to_s,
          File.basename(entry.name.dup.force_encoding(Encoding::UTF_8).scrub)
        )
      rescue Error::UnusableTable, Zlib::Error, Zip::Error => error
        @collected.rejected << Table::Rejected.new(
          line: 0,
          reason: "#{entry.name.scrub[0, Cut::QUOTE]}: #{error.message}",
          cells: []
        )
      end

      def read_one(bytes, filename)
        if bytes.bytesize > MAX_MESSAGE
          raise Error::UnusableTable, "The message is larger than #{MAX_MESSAGE / 1024 / 1024} MB."
        end
        return read_mail(bytes) if bytes.match?(HEADER)
        if bytes.match?(/<(?:!doctype|html|body|a|table|div|p)\b/ni)
          return read_html(page(bytes), filename, nil)
        end

        raise Error::UnusableTable, "“#{filename[0, Cut::QUOTE]}” is neither a message (.eml) nor an HTML page."
      end

      def read_mail(bytes)
        if bytes.scan(MULTIPART).size > Budget::PARTS
          raise Error::UnusableTable, "The message has more than #{Budget::PARTS} parts that hold parts."
        end

        mail = Mail.new(bytes)
        subject = subject_of(mail).gsub(/[[:cntrl:]]+/, " ").strip
        place = [
          subject.empty? ? "message without a subject" : subject,
          mail.date&.strftime("%F")
        ].compact.join(" · ")[0, Cut::CELL]
        read_parts(mail, place, date_of(mail))
      rescue Error
        raise
      rescue => error # The library trips over some headers; the rest of a ZIP file goes on.
        raise Error::UnusableTable, "The message cannot be read: #{error.message.scrub[0, Cut::FAILURE]}"
      end

      # @return [String] decoded; as it stands where it is part encoded, part raw
      def subject_of(mail)
        readable(mail.subject.to_s)
      rescue EncodingError, TypeError # Ruby knows names of encodings that mean none.
        readable(mail[:subject].unparsed_value.to_s)
      end

      def date_of(mail) = mail.date&.to_date

      def read_parts(mail, place, since)
        markup = MARKUP.to_h { |type, part| [part, texts(mail, type)] }
        plain = texts(mail, "text/plain")
        html = adding do
          markup.each { |part, texts| texts.each { |text| read_html(text, place, since, part: part) } }
        end
        text = adding { plain.each { |one| read_plain(one, place, since) } }
        compare(place, html, text) if markup.values.any?(&:any?) && plain.any?
      end

      # @return [Array<Sighting>] what the block has collected
      def adding
        before = @collected.items.size
        yield
        @collected.items[before..]
      end

      def texts(mail, type)
        parts = mail.multipart? ? mail.all_parts : [mail]
        parts.select { |part| (part.mime_type || "text/plain") == type && !part.attachment? }
          .map { |part| (type == "text/plain") ? words(part) : page(decoded(part), part.content_type) }
      end

      def words(part)
        bytes = decoded(part)
        Page::Charset.decode(bytes, said_of(part.content_type) || guessed(bytes))
      end

      # Read as a browser would; where nobody says in what it is written, more kindly than one.
      def page(bytes, content_type = nil)
        encoding = said_of(content_type) || Page::Charset.told(bytes) || guessed(bytes)
        Page::Charset.decode(bytes, encoding)
      end

      # Programs say ASCII of whatever they were given.
      def said_of(content_type)
        label = Page::ContentType.of(content_type).charset
        Page::Charset.named(label) unless label.to_s.casecmp?("us-ascii")
      end

      def guessed(bytes)
        bytes.dup.force_encoding(Encoding::UTF_8).valid_encoding? ? Encoding::UTF_8 : Page::Charset::USUAL
      end

      # An encoding that nobody knows is none: programs show such a part as it stands.
      # @return [String] bytes
      def decoded(part)
        part.body.decoded.b
      rescue Mail::UnknownEncodingType
        part.body.raw_source.b
      end

      # @return [String] UTF-8; text of which nobody said what it is written in is taken for it
      def readable(text)
        text = text.dup.force_encoding(Encoding::UTF_8) if text.encoding == Encoding::BINARY
        text.encode(Encoding::UTF_8, invalid: :replace, undef: :replace).scrub
      end

      def read_html(text, place, since, part: MARKUP["text/html"])
        markup = Page::Markup.new(text)
        base = markup.base && Address.new(markup.base)
        shown = adding { read_anchors(markup, part, place, since, base) }
        instead = adding do
          markup.conditional.first(MAX_LINKS).each do |one|
            read_anchors(one, "#{part}, for some mail programs", place, since, base)
          end
        end
        twins(*[shown, instead].map { |some| some.map { |one| one.address.normal_form }.uniq }
          .then { |one, other| [one - other, other - one] })
          .each { |one, other|
            @collected.notes << "#{place}: some mail programs show a link to #{other} where others show one to #{one}."
          }
      end

      def read_anchors(markup, part, place, since, base)
        markup.anchors.first(MAX_LINKS).each do |anchor|
          take(
            anchor.href.strip,
            anchor.text,
            "#{part}, link #{anchor.position}",
            place,
            since,
            base: base,
            image: anchor.image
          )
        end
      end

      def read_plain(text, place, since)
        @finder.in(text).first(MAX_LINKS).each do |found|
          take(
            found.text,
            text.lines[found.line - 1].to_s.strip[0, Cut::LINE],
            "plain-text part, line #{found.line}",
            place,
            since
          )
        end
      end

      def take(href, text, part, place, since, base: nil, image: false)
        reason = Apart.reason(href, text)
        if reason
          return @collected.apart << Apart.new(
            address: href[0, Cut::ADDRESS],
            text: text,
            reason: reason,
            place: "#{place} · #{part}"
          )
        end

        address =
          if href.match?(TableReader::ADDRESS) || base.nil?
            Address.parse(href)
          else
            Address::Reference.resolve(href, base)
          end
        @collected.items << Sighting.new(address: address,
          kind: "message",
          place: place,
          owner: @owner,
          since: since,
          text: text,
          part: part,
          line: @collected.items.size + 1, facts: image ? {"link" => "picture"} : nil)
      rescue Error::UnusableAddress => error
        @collected.rejected << Table::Rejected.new(
          line: 0,
          reason: "#{place} · #{part}: #{error.message}",
          cells: [href[0, Cut::CELL]]
        )
      end

      # Some mail programs show the one part, some the other: a link that is tagged only in one loses the
      # other's readers.
      def compare(place, html, plain)
        forms = [html, plain].map { |sightings| sightings.map { |one| one.address.normal_form }.uniq }
        only_html, only_plain = forms[0] - forms[1], forms[1] - forms[0]
        twins(only_html, only_plain).each do |one, other|
          @collected.notes << "#{place}: the plain-text part links to #{other} where the HTML part links to #{one}."
        end
        pages = ->(list) { list.map { |text| Address.new(text).page } }
        missing = only_html.reject { |text| pages.call(forms[1]).include?(Address.new(text).page) }
        added = only_plain.reject { |text| pages.call(forms[0]).include?(Address.new(text).page) }
        if missing.any?
          @collected.notes << "#{place}: #{counted(missing.size)} of the HTML part #{(missing.size == 1) ? "is" : "are"} not in the plain-text part."
        end
        if added.any?
          @collected.notes << "#{place}: #{counted(added.size)} of the plain-text part #{(added.size == 1) ? "is" : "are"} not in the HTML part."
        end
      end

      def counted(number) = Orvant::Words.counted(number, "link")

      # Links to one page with different parameters.
      def twins(html, plain)
        plain.filter_map do |other|
          one = html.find { |text| Address.new(text).page == Address.new(other).page }
          one && [one, other]
        end
      end
    end
  end
end
