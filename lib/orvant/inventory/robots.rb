# frozen_string_literal: true

module Orvant
  module Inventory
    # What a host permits to be crawled, by its robots.txt (RFC 9309).
    class Robots
      # RFC 9309, 2.5: at least 500 kB must be read.
      MAX_BYTES = 512_000
      AGENT = "orvant"

      Rule = Struct.new(:allow, :path, :pattern, keyword_init: true)

      attr_reader :delay, :sitemaps

      # A host without a robots.txt permits everything, one that cannot answer forbids everything (RFC 9309,
      # 2.3.1).
      #
      # @param status [Integer, nil] of its answer; nil where there was none
      # @param body [String]
      # @return [Robots]
      def self.of(status, body)
        return new(body) if status&.between?(200, 299)

        new(status&.between?(300, 499) ? "" : "User-agent: *\nDisallow: /")
      end

      # @param text [String] a robots.txt
      def initialize(text)
        @sitemaps = []
        groups = parse(text.byteslice(0, MAX_BYTES).dup.force_encoding(Encoding::UTF_8).scrub)
        chosen = groups.select { |agents, _| agents.include?(AGENT) }
        chosen = groups.select { |agents, _| agents.include?("*") } if chosen.empty?
        lines = chosen.flat_map(&:last)
        @rules = lines.filter_map { |name, value| rule(name, value) }
        @delay = lines.filter_map { |name, value|
          value.to_f if name == "crawl-delay" &&
            value.match?(/\A\d+(\.\d+)?\z/)
        }.first ||
          0.0
      end

      # @param address [Address]
      # @return [Boolean] the longest rule that matches decides, allow before disallow
      def allow?(address)
        path = normal(address.path.empty? ? "/" : address.path) +
          (address.query ? "?#{normal(address.query)}" : "")
        best = @rules.select { |rule| rule.pattern.match?(path) }
          .max_by { |rule| [rule.path.length, rule.allow ? 1 : 0] }
        best.nil? || best.allow
      end

      private

      # @return [Array<Array(Array<String>, Array)>] agents in lower case, and the lines of their group
      def parse(text)
        groups = []
        naming = false
        text.each_line do |line|
          name, value = line.sub(/#.*/m, "").split(":", 2).map { |part| part.to_s.strip }
          next if value.nil?

          name = name.downcase
          case name
          when "user-agent"
            groups << [[], []] unless naming
            groups.last[0] << value.downcase[/\A[a-z_-]+|\A\*/].to_s
            naming = true
          when "sitemap" then @sitemaps << value
          else
            naming = false
            groups.last[1] << [name, value] if groups.any?
          end
        end
        groups
      end

      def rule(name, value)
        return unless %w[allow disallow].include?(name) && !value.empty?

        path = normal(value)
        Rule.new(allow: name == "allow", path: path, pattern: pattern(path))
      end

      # The first place where what follows a `*` matches is as good as any later, unless it must be the end:
      # so no rule, however it is written, makes a match go back and forth.
      def pattern(path)
        first, *others = path.delete_suffix("$").split("*", -1).map { |part| Regexp.escape(part) }
        ending = path.end_with?("$") ? [(".*#{others.pop}" if others.any?), "\\z"].join : ""
        Regexp.new("\\A#{first}#{others.map { |part| "(?>.*?#{part})" }.join}#{ending}", Regexp::MULTILINE)
      end

      # Escapes are compared in one spelling (RFC 9309, 2.2.2).
      def normal(text)
        text.b.gsub(/%[0-9a-f]{2}|[\x80-\xff]/ni) { |part|
          part.start_with?("%") ? unescaped(part) : format("%%%02X", part.ord)
        }
          .force_encoding(Encoding::UTF_8)
      end

      def unescaped(escape)
        char = escape[1, 2].hex.chr
        char.match?(Address::NormalForm::UNRESERVED) ? char : escape.upcase
      end
    end
  end
end
