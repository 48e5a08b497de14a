# frozen_string_literal: true

module Orvant
  module Page
    # essence: lower case, "" where none is named · charset: as it stands there, or nil
    ContentType = Struct.new(:essence, :charset)

    # A `Content-Type` as browsers read it (Fetch Standard, 2.2.2, “extract a MIME type”; MIME Sniffing, 4.4;
    # more leniently, as Chromium does): of several, whether in one header or in many, the last that names a
    # type counts.
    class ContentType
      # Commas within quotes are part of what stands there.
      VALUE = /(?:[^,"]|"(?:[^"\\]|\\.)*(?:"|\z))+/m
      ESSENCE = /\A[^\s;(]+/
      REMEMBERED = 200
      PARAMETER = /;\s*([^;=]*)=\s*(?:"((?:[^"\\]|\\.)*)"?|([^;]+))/m

      # @param header [String, nil] its value; of several headers those of all, with commas between
      # @return [ContentType]
      def self.of(header)
        (@known ||= Memory.new(REMEMBERED)).fetch(header.to_s) do
          header.to_s.scan(VALUE).map(&:strip).reduce(new("", nil)) { |known, value| known.followed_by(value) }
        end
      end

      # One that names the same type leaves the charset as it is.
      #
      # @param value [String] that stands behind it
      # @return [ContentType]
      def followed_by(value)
        named = value[ESSENCE].to_s.downcase
        return self if !value.include?("/") || named == "*/*"

        said = charset_in(value)
        self.class.new(named, said || (charset if named == essence))
      end

      private

      # The first that has a value; blanks within a name are part of it.
      def charset_in(value)
        value.scan(PARAMETER) do |name, quoted, plain|
          return quoted ? quoted.gsub(/\\(.)/m, "\\1") : plain.strip if name.casecmp?("charset")
        end
        nil
      end
    end
  end
end
