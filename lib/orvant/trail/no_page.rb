# frozen_string_literal: true

require "yaml"

module Orvant
  class Trail
    # Tells of an answer whether it shows a visitor what was promised, whatever its status: by the words of
    # its title and heading, and by whether anything else stands there that the host's page for a wrong
    # address lacks. A name or a title alone is never enough.
    class NoPage
      DATA = YAML.safe_load_file(File.join(__dir__, "no_page.yml"))
      # What a page says in its place, by kind. The first that fits counts.
      SAYINGS = DATA.fetch("sayings").transform_values { |texts| Regexp.new(texts.join("|"), Regexp::IGNORECASE) }.freeze
      # Words that pages of this sort say besides, or any page does.
      PLAIN = Set.new(DATA.fetch("plain").split).freeze
      # A page with so many words of its own has something to say.
      CONTENT = 4
      # A text of so few words is read like a heading.
      SHORT = 30
      # Elements that show something without a word.
      SHOWN = "//img | //svg | //canvas | //video | //audio | //object | //embed | //iframe | //frame | //form | //input | //button"
      # Names of files that links lead to on purpose.
      FILES = /\.(?:pdf|ics|vcf|zip|csv|xlsx?|docx?|pptx?|odt|ods|epub|gpx|kml|mp3|mp4|m4a|mov|jpe?g|png|gif|webp|svg|txt|xml|json|rss|atom|apk|pkpass)\z/i

      # What was found. kind: a key of SAYINGS, or `empty`, `script`, `download`, `app`, `held` · said: as it
      # stands there, or nil · sure: whether it is certain; else a person is to look.
      Found = Struct.new(:kind, :said, :sure, keyword_init: true) do
        def to_h = super.transform_keys(&:to_s).compact
      end

      # @param trail [Trail] that ended with an answer
      # @param markup [Page::Markup] of it
      # @param nowhere [Trail, nil] the answer of the host to an address that cannot exist
      def initialize(trail, markup, nowhere)
        @trail = trail
        @markup = markup
        @nowhere = nowhere
      end

      # @return [Found, nil] nil where a page is shown
      def found = download || (saying unless content?) || without_words

      # @return [Boolean] whether anything stands on the page that pages of this sort lack
      def content? = own_words? || fields? || @markup.text.match?(PRICE)

      private

      PRICE = /[€$£¥]\s?\d|\d[.,]\d\d\s?(?:[€$£]|EUR|USD|GBP|CHF)\b/
      private_constant :PRICE

      # Most pages have said enough in their first sentence.
      def own_words?
        others = [words_of(@nowhere), names]
        own = Set.new
        @markup.text.scan(WORD) do |found|
          word = found.downcase
          own << word unless PLAIN.include?(word) || others.any? { |set| set.include?(word) }
          return true if own.size > CONTENT
        end
        false
      end

      WORD = /[[:alpha:]]{2,}/
      private_constant :WORD

      def words_of(trail) = trail&.answered? ? trail.markup.vocabulary : Set.new

      # Whoever shows such a page signs it.
      def names = Set.new(Address.of(@trail.final_address).host.downcase.scan(WORD))

      def fields?
        @markup.forms.any? { |form| (form.fields - %w[q s search query]).any? }
      end

      def saying
        kind, said = SAYINGS.lazy.filter_map { |name, pattern|
          told(pattern)&.then { |text|
            [name, text]
          }
        }.first
        Found.new(kind: kind, said: said[0, Cut::LINE], sure: true) if kind
      end

      def told(pattern)
        texts = [@markup.title, @markup.heading]
        texts << @markup.text if @markup.text.split.size <= SHORT
        texts.find { |text| text.match?(pattern) }
      end

      # Who is given a file stays where they were; a link that names one is meant so.
      def download
        return if @trail.headers.nil? || @trail.engine != "http"

        given = @trail.headers["content-type"].to_s[/\A[^;]+/].to_s.strip
        file = given.match?(DOWNLOADED) || (kind_of_answer == :none && @trail.status == 200)
        Found.new(kind: "download", said: given, sure: true) if file && !names_file?
      end

      DOWNLOADED = %r{\Aapplication/(?:octet-stream|zip|x-)}i
      private_constant :DOWNLOADED

      def names_file?
        [@trail.address, @trail.final_address].any? { |text| Address.of(text).plain_path.match?(FILES) }
      end

      def kind_of_answer
        Page::Type.of(@trail.status.to_i, @trail.headers.to_h, @trail.body.to_s)
      end

      def without_words
        return if !blank? || seen_otherwise?

        app = @trail.attempts.to_a.find { |text| !text.match?(/\A(?:https?|mailto|tel|sms|about):/i) }
        return Found.new(kind: "app", said: app, sure: true) if app

        held = @trail.seen.undecided.to_a.first
        return Found.new(kind: "held", said: held, sure: false) if held
        return Found.new(kind: "script", said: @trail.seen.failed, sure: true) if @trail.seen.failed

        Found.new(kind: "empty", sure: !styled?)
      end

      def blank? = @markup.text.empty? && !@markup.shows?(SHOWN)

      # What runs may draw the page: only a browser tells whether it stays blank. What is no HTML is not read.
      def seen_otherwise?
        return false unless @trail.engine == "http"

        @trail.unseen.to_a.any? || !%i[html xml].include?(kind_of_answer)
      end

      # A picture may stand in its style.
      def styled? = @markup.shows?("//style | //link[@rel='stylesheet'] | //*[@style]")
    end
  end
end
