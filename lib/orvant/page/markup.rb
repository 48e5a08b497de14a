# frozen_string_literal: true

require "nokogiri"

module Orvant
  module Page
    # What a page's markup says, read without running it. Comments and templates do not count, nor does what
    # stands in `noscript`, which a browser that runs scripts does not show.
    class Markup
      # The longest tag of a language that programs must take (RFC 5646, 4.4.1).
      LONGEST_LANGUAGE = 35
      LIVE = "[not(ancestor::template)]"
      # What stands in `noscript` is text to a browser that runs scripts, whatever it looks like.
      READING = {max_tree_depth: 2_000, max_attributes: 10_000, parse_noscript_content_as_text: true}.freeze
      # Of a page that is nested deeper only what tells of the page itself is read.
      TELLING = /<(?!\/?(?:title|meta|base|link|script|noscript|template|style|h1|a)\b|!--)[^>]*>/im
      # What lets a page do anything by itself: scripts, handlers, frames, forms and links with a script.
      RUNS = /<(?:[\w-]+:)?(?:script|i?frame|object|embed|portal|form|fencedframe)\b|[\s"'\/]on[a-z]{3,30}\s*=|javascript\s*:/i
      # Where the text holds another number of them than the tree, a browser may read the page otherwise. What
      # is written by character references counts as one.
      REFRESH = /http-equiv\s*=\s*["']?\s*(?:refresh|[^"'>\s]*&)/i
      # A refresh. content: as written · base: the base's address as written where it stands, or nil.
      Order = Struct.new(:content, :base, keyword_init: true)
      CONDITIONAL = /\A\s*\[if\b[^\]]*\]>(.*)<!\[endif\]\z/mi

      # A link on a page. href: as written · text · rel: its words · referrerpolicy · image: whether it holds
      # nothing but a picture.
      Anchor = Struct.new(:href, :text, :rel, :referrerpolicy, :image, :position, keyword_init: true)
      # A form. action: as written · fields: names of its fields · hidden: Hash of hidden names to values.
      Form = Struct.new(:action, :fields, :hidden, keyword_init: true)

      # Many links land on one page: its markup is read once while it is the same to the byte. A tree takes
      # many times its page's bytes, so that few are kept of large pages.
      KEPT = 64
      KEPT_BYTES = 2_000_000

      class << self
        # @param body [String, nil]
        # @param content_type [String, nil] the header's value
        # @param language [String, nil] of the visitor
        # @return [Markup] the one that was made of the same bytes lately, or a new one
        def of(body, content_type = nil, language: nil)
          @kept ||= {}
          key = [body.to_s.bytesize, body.to_s.hash, content_type, language]
          known = @kept.delete(key)
          return @kept[key] = known if known

          new(body, content_type, language: language).tap { |markup| keep(key, markup) }
        end

        private

        def keep(key, markup)
          @kept[key] = markup
          @kept.shift while @kept.size > KEPT || (@kept.size > 1 &&
            @kept.sum { |(bytes, _), _| bytes } > KEPT_BYTES)
        end
      end

      # @param body [String, nil] bytes of a page, or its text
      # @param content_type [String, nil] the header's value; text of which nobody says is read as it is
      # @param language [String, nil] of the visitor, as a tag (RFC 5646)
      def initialize(body, content_type = nil, language: nil)
        @encoding =
          if body.to_s.encoding == Encoding::BINARY || content_type
            Charset.of(body.to_s, content_type, language: language)
          else
            Encoding::UTF_8
          end
        @source = Charset.decode(body.to_s, @encoding)
        @foreign = Type.xml?(content_type)
        @document = parsed
      end

      # @return [Encoding] in which it is written
      attr_reader :encoding

      # @return [String] the title, white space folded
      def title = @title ||= text_of("title")

      # @return [String] the first main heading
      def heading = @heading ||= text_of("h1")

      # @return [String] what a person reads, white space folded
      def text
        @text ||= @document.xpath("//body//text()[not(ancestor::script or ancestor::style or ancestor::template or ancestor::noscript)]")
          .map(&:text).join(" ").gsub(/[[:space:]]+/, " ").strip
      end

      # @param path [String] XPath
      # @return [Boolean] whether such an element stands on it
      def shows?(path) = @document.xpath(path).any? { |node| node.ancestors("template").empty? }

      # @return [Array<String>] addresses of the frames that it shows, as written
      def frames
        @frames ||= @document.xpath("//iframe[@src]#{LIVE} | //frame[@src]#{LIVE}").map { |node| node["src"].strip }
      end

      # A script. src: as written, nil where there is none · text · head: whether it stands in the head ·
      # position: from 1.
      Script = Struct.new(:src, :text, :head, :position, keyword_init: true)
      # What a `type` says of a script that runs.
      RUNNING = %r{\A(?:|module|(?:text|application)/(?:x-)?(?:java|ecma)script)\z}i
      # Of the text of a script nobody reads more, in characters.
      MOST_SCRIPT = 200_000

      # @return [Array<Script>] those that run, in the order of the page
      def scripts
        @scripts ||= @document.xpath("//script#{LIVE}").select { |node| RUNNING.match?(node["type"].to_s.strip) }.map.with_index(1) do |node, position|
          Script.new(
            src: node["src"]&.strip,
            text: node["src"] ? "" : node.text[0, MOST_SCRIPT],
            head: node.ancestors.any? { |one| one.name == "head" },
            position: position
          )
        end
      end

      # @return [Array<String>] `src` of each script, as written
      def script_sources
        @script_sources ||= @document.xpath("//script[@src]#{LIVE}").map { |script| script["src"].strip }
      end

      # @return [Boolean] whether anything on the page can run, so that only a browser can tell what becomes
      #   of its visitors
      def runs?
        return @runs if defined?(@runs)

        @runs = @foreign || @source.match?(RUNS) || @source.scan(REFRESH).size != refreshes.size
      end

      # @return [Boolean] whether a script that stands on the page may act on the values in its address
      def acts_on_address?
        return @acts if defined?(@acts)

        @acts = runs? && Scripts.act_on_address?(@source)
      end

      # @return [Array<Order>] what each `meta http-equiv=refresh` says, as written, and the base that is
      #   known where it stands
      def refreshes
        @refreshes ||= begin
          base = nil
          @document.xpath("//meta[@content] | //base[@href]").filter_map do |node|
            next if node.ancestors.any? { |one| one.name == "template" }
            next (base ||= node["href"].strip) && nil if node.name == "base"

            Order.new(content: node["content"], base: base) if node["http-equiv"].to_s.casecmp?("refresh")
          end
        end
      end

      # @return [Array<Anchor>] every link in the order of the page
      def anchors
        @document.xpath("//a[@href]#{LIVE} | //area[@href]#{LIVE} | //*[@href][contains(name(), ':')]#{LIVE}").map
          .with_index(1) { |node, position| anchor(node, position) }
      end

      # @return [Array<Markup>] what stands in conditional comments, which some mail programs show in place of
      #   what stands around
      def conditional
        @document.xpath("//comment()")
          .filter_map { |comment| comment.text[CONDITIONAL, 1] }
          .map { |text| Markup.new(text) }
      end

      # @return [Array<Form>]
      def forms
        @document.xpath("//form#{LIVE}").map do |form|
          inputs = form.xpath(".//input[@name] | .//select[@name] | .//textarea[@name]")
          hidden = inputs.select { |input| input["type"].to_s.casecmp?("hidden") }
          Form.new(
            action: form["action"].to_s,
            fields: inputs.map { |input| input["name"] },
            hidden: hidden.to_h { |input| [input["name"], input["value"].to_s] }
          )
        end
      end

      # @return [String, nil] the canonical address as written (RFC 6596)
      def canonical
        return @canonical if defined?(@canonical)

        @canonical = @document.xpath("//link[@rel and @href]#{LIVE}")
          .find { |link| tokens(link["rel"]).include?("canonical") }&.[]("href")&.strip
      end

      # @return [Array<String>] addresses of the same page in other languages, as written (HTML Living
      #   Standard, 4.6.7.1)
      def alternates
        @document.xpath("//link[@rel and @href and @hreflang]#{LIVE}")
          .select { |link| tokens(link["rel"]).include?("alternate") }
          .map { |link| link["href"].strip }
      end

      # @return [Array<String>] directives for search engines, in lower case
      def robots = @robots ||= metas("name", "robots").flat_map { |content| content.downcase.split(/[\s,]+/) }

      # @return [String, nil] the last referrer policy that a meta names (W3C Referrer Policy, 4.2)
      def referrer_policy
        return @referrer_policy if defined?(@referrer_policy)

        named = @document.xpath("//meta[@content]#{LIVE}")
          .select { |meta| meta["name"].to_s.casecmp?("referrer") }
        @referrer_policy = ReferrerPolicy.of_metas(named.map { |meta| meta["content"] })
      end

      # @return [String, nil] `href` of the first base, as written
      def base
        return @base if defined?(@base)

        @base = @document.at_xpath("//base[@href]#{LIVE}")&.[]("href")&.strip
      end

      # @return [String] what is compared to tell whether two pages say the same: numbers may differ from one
      #   answer to the next
      def words = @words ||= text.gsub(/\d+|orvant-\S+/, "")

      # @return [Set<String>] the words that a person reads, in small letters
      def vocabulary = @vocabulary ||= Set.new(text.downcase.scan(/[[:alpha:]]{2,}/))

      # @return [String] the language the document names
      def language = @document.root&.[]("lang").to_s.strip[0, LONGEST_LANGUAGE]

      private

      def parsed
        Nokogiri::HTML5(@source, **READING)
      rescue ArgumentError
        shallow
      end

      def shallow
        Nokogiri::HTML5(@source.gsub(TELLING, " "), **READING)
      rescue ArgumentError
        Nokogiri::HTML5("")
      end

      def anchor(node, position)
        text = node.text.gsub(/[[:space:]]+/, " ").strip
        picture = node.at_xpath(".//img")
        text = picture["alt"].to_s.strip if text.empty? && picture
        Anchor.new(href: node["href"],
          text: text[0, Cut::TEXT],
          rel: tokens(node["rel"]),
          referrerpolicy: node["referrerpolicy"].to_s.downcase,
          image: !picture.nil? && node.text.strip.empty?, position: position)
      end

      def metas(attribute, value)
        @document.xpath("//meta[@content]#{LIVE}")
          .select { |meta| meta[attribute].to_s.strip.casecmp?(value) }
          .map { |meta| meta["content"] }
      end

      def tokens(text) = text.to_s.downcase.split

      def text_of(selector)
        @document.at_css(selector)&.text.to_s.gsub(/[[:space:]]+/, " ").strip[0, Cut::TEXT]
      end
    end
  end
end
