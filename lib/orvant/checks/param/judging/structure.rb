# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Whether an address is built as addresses are, and how it would be if it were: parameters behind one
      # question mark, parted by `&`, before the fragment. Only stretches at which a carrier's name begins are
      # touched, and what was damaged with them; what others write between them is theirs.
      class Structure
        # stretch: as it was seen · sentence: what is wrong with it.
        Break = Struct.new(:stretch, :sentence, keyword_init: true)

        NOTHING = [].freeze
        # An ampersand that was escaped for markup, once or more often.
        ENTITIES = /&(?:(?:amp|#0*38|#x0*26);)+/i
        ESCAPED_AMPERSAND = /%26(?:amp;|amp%3B)*/i
        EQUALS = /(?:=|%3D)/i
        ESCAPED = /%(?:3F|26|3D)/i
        SENTENCES = {
          path: "parameters begin with & and no ? stands before them, so servers take them for a part of the path",
          mark: "the ? before the parameters is escaped (%3F), so servers take them for a part of the path",
          entity: "&amp; stands where & should, so the name of the parameter behind it is read as amp;…",
          escaped: "%26 stands where & should, so what follows it becomes a part of the value before it",
          second: "a second ? stands where & should, so what follows it becomes a part of the value before it",
          semicolon: "; stands where & should, so what follows it becomes a part of the value before it",
          equals: "%3D stands where = should, so no reader finds the name"
        }.freeze

        # How carriers stand where something is broken before or behind them.
        class Patterns
          attr_reader :numbered, :path, :second, :semicolon, :entity, :escaped, :name, :equals, :moved, :begun

          # @param carrier [Regexp] names of carriers
          def initialize(carrier)
            with_equals = /(?=(?:#{carrier})#{EQUALS})/
            @numbered = /&#(0*38|x0*26);(?=(?:#{carrier})=)/i
            @path = /(?:#{ENTITIES}|&|%3F)#{with_equals}/i
            @second = /\?#{with_equals}/
            @semicolon = /;#{with_equals}/
            @entity = /#{ENTITIES}#{with_equals}/
            @escaped = /#{ESCAPED_AMPERSAND}#{with_equals}/
            @name = /\A(?:#{carrier})(?=#{EQUALS})/
            @equals = /\A(?:#{carrier})%3D/i
            @moved = /(?:\A|[?&])(?:#{carrier})=/
            @begun = /\A(?:#{carrier})=/
          end
        end

        attr_reader :seen, :address, :breaks, :moved

        # @param seen [Address]
        # @param names [Convention::Names] of carriers and required identifiers
        def initialize(seen, names)
          @seen = @address = seen
          @names = names
          @breaks = @moved = NOTHING
          rebuild unless seen.plainly_built? && !seen.raw.match?(ESCAPED)
        end

        # @return [Boolean]
        def sound? = breaks.empty? && moved.empty?

        private

        def patterns = @patterns ||= @names.compiled(Patterns)

        # A name without `=` that begins as a carrier does.
        def run(part)
          return if part.include?("=")

          @names.list.select { |name|
            part.length > name.length &&
              part.start_with?(name) &&
              !part[name.length].match?(/[_-]/)
          }.max_by(&:length)
        end

        def rebuild
          @breaks = []
          @moved = []
          text, @fragment = parted
          head, query = head_and_query(text)
          query = joined(query) if query
          query, fragment = unfold(query, @fragment)
          text = head + (query.to_s.empty? ? (query &&
            @moved.empty? &&
            "?").to_s : "?#{query}") + (fragment ? "##{fragment}" : "")
          @address = Address.new(text) unless sound?
        end

        # The # of `&#38;` before a carrier begins no fragment.
        def parted
          text = @seen.raw.gsub(patterns.numbered, "&amp;")
          before, mark, fragment = text.partition("#")
          [before, (fragment unless mark.empty?)]
        end

        # An ampersand, or an escaped question mark, where the question mark should be.
        def head_and_query(text)
          head, query = text.split("?", 2)
          place = head.index(patterns.path)
          return [head, query] unless place

          sign = head[place..][/\A(?:#{ENTITIES}|&|%3F)/io]
          broken(head[place, 40], SENTENCES[sign.start_with?("%") ? :mark : :path])
          path = head[0...place]
          beside = sign.start_with?("%") ? "" : path[BESIDE].to_s
          carried = head[(place + sign.length)..]
          [path.delete_suffix(beside), [*beside.split("&").drop(1), carried, query].compact.join("&")]
        end

        # Other parameters before the first carrier.
        BESIDE = /(?:&[\w.\[\]-]+=[^&\/]*)+\z/
        private_constant :BESIDE

        def joined(query)
          query = entities(query)
          query = replace(query, patterns.second, :second)
          query = replace(query, patterns.semicolon, :semicolon)
          query = query.delete_prefix("&") if @seen.query.to_s.start_with?("?")
          query.split(/(&)/, -1).map { |part| spread(part) }.join
        end

        # Where a carrier was damaged by markup, so were the parameters beside it.
        def entities(query)
          before = @breaks.size
          query = replace(query, patterns.entity, :entity)
          (@breaks.size > before) ? query.gsub(/#{ENTITIES}(?=[\w.\[\]-]+=)/o, "&") : query
        end

        def replace(text, pattern, deed)
          text.gsub(pattern) do |stretch|
            broken("#{stretch}#{$~.post_match[/\A[^=&%]*=?/]}", SENTENCES[deed])
            "&"
          end
        end

        def spread(part)
          part = opened(part)
          name = run(part) or return part
          broken(part, "#{name} runs into its value without =, so no reader knows either")
          "#{name}=#{part[name.length..]}"
        end

        # In a carrier's own value nothing that looks like another carrier is meant to stand.
        def opened(part)
          name = part[patterns.name] or return part
          first, *rest = part.split(patterns.escaped)
          broken("%26#{rest.first[0, Cut::WORD]}", SENTENCES[:escaped]) if rest.any?
          [first, *rest].map { |one| with_equals(one, name) }.join("&")
        end

        def with_equals(part, name)
          return part unless part.match?(patterns.equals)

          broken(part[0, name.length + 20], SENTENCES[:equals])
          part.sub(/%3D/i, "=")
        end

        def broken(stretch, sentence) = @breaks << Break.new(stretch: stretch, sentence: sentence)

        # Carriers behind the fragment's mark are moved before it; a route there, and others' parameters,
        # stay.
        def unfold(query, fragment)
          return [query, fragment] unless fragment&.match?(patterns.moved)

          parts = fragment.split(/([?&])/, -1)
          kept = keep_others(parts)
          carried = query.to_s.split("&").map { |part| part[/\A[^=]*/] }
          added = @moved.reject { |part| carried.include?(part[/\A[^=]*/]) }
          [[query, *added].reject { |part| part.to_s.empty? }.join("&"), (kept unless kept.empty?)]
        end

        def keep_others(parts)
          marks = [""] + parts.values_at(*(1...parts.size).step(2))
          texts = parts.values_at(*(0...parts.size).step(2))
          kept = texts.zip(marks).reject { |text, _| text.match?(patterns.begun) && @moved << text }
          opened = false
          kept.each_with_index.map do |(text, mark), place|
            mark = "" if place.zero? && texts.first.match?(patterns.begun)
            mark = "?" if mark == "&" && !opened && marks.include?("?")
            opened ||= mark == "?"
            "#{mark}#{text}"
          end.join
        end
      end
    end
  end
end
