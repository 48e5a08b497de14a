# frozen_string_literal: true

module Orvant
  module Inventory
    # The address that a click on an ad would open: the pattern with its tokens filled, and the level that
    # each stretch came from.
    class ClickAddress
      # A piece of the address. level: one of Level::NAMES, or `network` for what the network fills in ·
      # token: its name, or nil · sample: whether it is only an example of what the network fills in.
      Stretch = Struct.new(:text, :level, :token, :sample, keyword_init: true) do
        def to_h
          {"text" => text, "level" => level, "token" => token}.merge(sample ? {"sample" => true} : {})
        end
      end
      # Own tokens may hold tokens, which may hold tokens; no deeper. A landing address holds no landing
      # address.
      DEEPEST = 4
      MAX_TOKENS = 2_000
      MAX_LENGTH = 65_536

      attr_reader :stretches, :used

      # @param levels [Array<Level>] from the top down
      # @param dialect [Convention::Dialect]
      # @param values [Hash{String => String}] token => value, as a person gave it
      # @param row [Hash{String => String}] what the ad's own row says (facts of its sighting)
      # @param samples [Boolean] whether samples fill in for values that neither tells
      def initialize(levels, dialect, values: {}, row: {}, samples: true)
        @levels = levels
        @dialect = dialect
        @values = values
        @row = row
        @samples = samples
        @sampled = []
        @used = {}
        @unknown = []
        @warnings = []
        @tokens = 0
        @in_landing = false
        @stretches = resolve
      end

      # @return [String] the address
      def to_s = stretches.map(&:text).join

      # @return [String] the pattern as written, or the landing address with its tail where there is none
      def before = pattern ? pattern.pattern : landing_parts.map(&:first).join

      # @return [Array<String>] tokens that resolved to nothing
      def empty = used.select { |_, value| value.empty? }.keys

      # @return [Array<String>] what looks like a token and the network does not offer
      attr_reader :unknown

      # Orvant never requests a billed host; it starts after it.
      #
      # @param billed [Hosts]
      # @return [String] the address, or the landing address with its tail where the address would be on a
      #   billed host
      def after(billed)
        after_billed?(billed) ? landing_stretches.map(&:text).join : to_s
      end

      # @param billed [Hosts] as for `after`
      # @return [Hash{String => Hash}] of Samples: parameters of `after` that hold samples
      def samples(billed)
        stretches = after_billed?(billed) ? landing_stretches : self.stretches
        filled = query_of(stretches) { |one| one.text }
        written = query_of(stretches) { |one|
          one.sample ? @dialect.write(one.token).tr(MARKS, HIDDEN) : one.text
        }
        filled.zip(written).reject { |one, other| other.nil? || one == other }.to_h do |one, other|
          name, _, value = one.partition("=")
          [Address::Pair.decode(name),
            {"filled" => value, "written" => other.partition("=").last.tr(HIDDEN, MARKS)}]
        end
      end

      # @return [String] the landing address that the ad declares, without tail
      def declared = fill(lowest(:landing)&.landing.to_s, "ad").map(&:text).join

      # @return [Hash{String => Object}] for JSON
      def to_h
        {"network" => @dialect.network,
         "before" => before,
         "address" => to_s,
         "stretches" => stretches.map(&:to_h),
         "tokens" => used,
         "empty" => empty,
         "unknown" => unknown,
         "samples" => @sampled,
         "values" => @values,
         "row" => @row,
         "warnings" => warnings,
         "levels" => @levels.map { |level|
           level.to_h.reject { |_, said| said.empty? }
             .transform_keys(&:to_s)
         }
           .reject { |level| level.keys == ["name"] }}
      end

      # @return [Array<String>] what is likely not meant, in sentences
      attr_reader :warnings

      private

      # Signs that part a query, and what stands for them while it is taken apart.
      MARKS = "&#?"
      HIDDEN = "\u{E000}\u{E001}\u{E002}"
      private_constant :MARKS, :HIDDEN

      def after_billed?(billed)
        address = Address.new(to_s)
        pattern && address.authority && billed.cover?(address.host)
      end

      # @return [Array<String>] the parameters, raw
      def query_of(stretches, &text)
        stretches.map(&text).join.sub(/#.*\z/m, "").partition("?").last.split("&").reject(&:empty?)
      end

      def lowest(part) = @levels.reverse.find { |level| !level[part].to_s.empty? }

      def pattern = @pattern ||= lowest(:pattern)

      def resolve
        merged(bounded(pattern ? fill(pattern.pattern, pattern.name) : landing_stretches))
      end

      def bounded(stretches)
        return stretches if stretches.sum { |one| one.text.length } <= MAX_LENGTH

        raise Error::UnusableAddress, "The click pattern unfolds to more than #{MAX_LENGTH} characters."
      end

      def landing_stretches = landing_parts.flat_map { |text, level| fill(text, level) }

      # @return [Array<Array(String, String)>] the landing address as written with its tail before the
      #   fragment, each with its level
      def landing_parts
        landing = lowest(:landing) or return []
        address, fragment = landing.landing.split("#", 2)
        tail = lowest(:tail)
        parts = [[address.to_s, landing.name]]
        parts << ["#{glue(address.to_s)}#{tail.tail.sub(/\A[?&]/, "")}", tail.name] if tail
        fragment ? parts << ["##{fragment}", landing.name] : parts
      end

      def glue(address)
        return "?" unless address.include?("?")

        address.match?(/[?&]\z/) ? "" : "&"
      end

      # @return [Array<Stretch>] a text with its tokens filled
      def fill(text, level, depth = 0)
        rest = text
        stretches = []
        while depth < DEEPEST && (start = rest.index(@dialect.open)) && (ending = closing(rest, start))
          stretches << Stretch.new(text: rest[0...start], level: level)
          stretches.concat(token(
            rest[(start + @dialect.open.length)...ending],
            level,
            depth,
            rest[0...start]
          ))
          rest = rest[(ending + @dialect.close.length)..]
        end
        (stretches << Stretch.new(text: rest, level: level)).reject { |one| one.text.empty? }
      end

      # @return [Integer, nil] where the token that opens at `start` closes, over tokens inside it
      def closing(text, start)
        return text.index(@dialect.close, start + @dialect.open.length) if @dialect.open == @dialect.close

        open = 0
        text.to_enum(:scan, /#{Regexp.escape(@dialect.open)}|#{Regexp.escape(@dialect.close)}/).each do
          match = Regexp.last_match
          next if match.begin(0) < start

          open += (match.to_s == @dialect.open) ? 1 : -1
          return match.begin(0) if open.zero?
        end
        nil
      end

      def token(inner, level, depth, before)
        if (@tokens += 1) > MAX_TOKENS
          raise Error::UnusableAddress, "The click pattern unfolds to more than #{MAX_TOKENS} tokens."
        end

        condition, text = @dialect.condition(inner)
        return shown(condition, text, level, depth) if condition
        return own(inner, depth) if @dialect.own && inner.start_with?(@dialect.own)

        known = @dialect.token(inner)
        warn_of(known, before) if known&.landing
        return landing(known) if known&.landing
        return filled(known) if known

        @unknown |= [inner]
        [Stretch.new(text: "#{@dialect.open}#{inner}#{@dialect.close}", level: level, token: inner)]
      end

      def shown(condition, text, level, depth)
        @used[condition.name] = value_of(condition)
        %w[yes true 1].include?(@used[condition.name]) ? fill(text, level, depth + 1) : []
      end

      def own(inner, depth)
        name = inner.delete_prefix(@dialect.own)
        level = @levels.reverse.find { |one| one.own.key?(name) }
        @used[inner] = (level ? level.own[name] : @values.fetch(inner, "")).to_s
        fill(@used[inner], level ? level.name : "network", depth + 1).each do |stretch|
          stretch.token ||= inner
        end
      end

      # Inside a parameter of another server everything behind its first & would be that server's.
      def warn_of(token, before)
        return unless token.landing == "plain" && before.match?(/[?&][^?&=]+=\z/)

        coded = @dialect.tokens.find { |one| one.landing == "encoded" }
        @warnings |= ["#{@dialect.write(token.name)} stands inside a parameter and is not encoded: what follows the first & of the landing address is lost there.#{" Write #{@dialect.write(coded.name)} instead." if coded}"]
      end

      def landing(token)
        if @in_landing
          raise Error::UnusableAddress,
            "The landing address or its tail holds the token #{token.name}, which stands for the landing address."
        end

        @in_landing = true
        stretches = landing_stretches
        @in_landing = false
        @used[token.name] = stretches.map(&:text).join
        return stretches if token.landing == "plain"

        stretches.map do |one|
          Stretch.new(text: Address::Pair.encode(one.text), level: one.level, token: one.token,
            sample: one.sample)
        end
      end

      def filled(token)
        @used[token.name] = value_of(token)
        [Stretch.new(
          text: Address::Pair.encode(@used[token.name]),
          level: "network",
          token: token.name,
          sample: @sampled.include?(token.name) || nil
        )].reject do |one|
          one.text.empty?
        end
      end

      # What a person gave, else what the ad's own row tells, else an example.
      def value_of(token)
        told = @values.fetch(token.name) { @row[token.tells] }.to_s
        return told if @values.key?(token.name) || !told.empty?
        return "" unless @samples && !token.sample.to_s.empty?

        @sampled |= [token.name]
        token.sample.to_s
      end

      def merged(stretches)
        stretches.chunk_while { |one, other| one.level == other.level && one.token.nil? && other.token.nil? }
          .map { |same|
            Stretch.new(
              text: same.map(&:text).join,
              level: same.first.level,
              token: same.first.token,
              sample: same.first.sample
            )
          }
      end
    end
  end
end
