# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Whether an address is built as addresses are, and how it would be if it were: parameters behind one question mark, parted by `&`,
      # before the fragment. Only stretches at which a carrier's name begins are touched; what others write between them is theirs.
      class Structure
        # stretch: as it was seen · sentence: what is wrong with it.
        Break = Struct.new(:stretch, :sentence, keyword_init: true)

        NOTHING = [].freeze
        attr_reader :address, :breaks, :moved

        # @param seen [Address]
        # @param names [Convention::Names] of carriers and required identifiers
        def initialize(seen, names)
          @seen = @address = seen
          @names = names
          @breaks = @moved = NOTHING
          rebuild unless seen.plainly_built?
        end

        # @return [Boolean]
        def sound? = breaks.empty? && moved.empty?

        private

        def carrier = @names.pattern

        # A name without `=` that begins as a carrier does.
        def run(part)
          return if part.include?("=")

          @names.list.select { |name| part.length > name.length && part.start_with?(name) && !part[name.length].match?(/[_-]/) }.max_by(&:length)
        end

        def rebuild
          @breaks = []
          @moved = []
          head, query = head_and_query(@seen.raw.sub(/#.*\z/m, ""))
          query = joined(query) if query
          query, fragment = unfold(query, @seen.fragment)
          text = head + (query.to_s.empty? ? (query && @moved.empty? && "?").to_s : "?#{query}") + (fragment ? "##{fragment}" : "")
          @address = Address.new(text) unless sound?
        end

        # An ampersand where the question mark should be.
        def head_and_query(text)
          head, query = text.split("?", 2)
          place = head.index(/&(?:amp;)?(?=(?:#{carrier})=)/)
          return [head, query] unless place

          broken(head[place, 40], "parameters begin with & and no ? stands before them, so servers take them for a part of the path")
          [head[0...place], [head[(place + 1)..].delete_prefix("amp;"), query].compact.join("&")]
        end

        def joined(query)
          query = replace(query, /&amp;(?=(?:#{carrier})=)/, "&", "&amp; stands where & should, so the name of the parameter behind it is read as amp;…")
          query = replace(query, /\?(?=(?:#{carrier})=)/, "&", "a second ? stands where & should, so what follows it becomes a part of the value before it")
          query = replace(query, /;(?=(?:#{carrier})=)/, "&", "; stands where & should, so what follows it becomes a part of the value before it")
          query = query.delete_prefix("&") if @seen.query.to_s.start_with?("?")
          query.split(/(&)/, -1).map { |part| spread(part) }.join
        end

        def replace(text, pattern, by, sentence)
          text.gsub(pattern) do |stretch|
            broken("#{stretch}#{$~.post_match[/\A[^=&]*=?/]}", sentence)
            by
          end
        end

        def spread(part)
          name = run(part) or return part
          broken(part, "#{name} runs into its value without =, so no reader knows either")
          "#{name}=#{part[name.length..]}"
        end

        def broken(stretch, sentence) = @breaks << Break.new(stretch: stretch, sentence: sentence)

        # Carriers behind the fragment's mark are moved before it; a route there, and others' parameters, stay.
        def unfold(query, fragment)
          return [query, fragment] unless fragment&.match?(/(?:\A|[?&])(?:#{carrier})=/)

          parts = fragment.split(/([?&])/, -1)
          kept = keep_others(parts)
          carried = query.to_s.split("&").map { |part| part[/\A[^=]*/] }
          added = @moved.reject { |part| carried.include?(part[/\A[^=]*/]) }
          [[query, *added].reject { |part| part.to_s.empty? }.join("&"), (kept unless kept.empty?)]
        end

        def keep_others(parts)
          marks = [""] + parts.values_at(*(1...parts.size).step(2))
          texts = parts.values_at(*(0...parts.size).step(2))
          kept = texts.zip(marks).reject { |text, _| text.match?(/\A(?:#{carrier})=/) && @moved << text }
          opened = false
          kept.each_with_index.map do |(text, mark), place|
            mark = "" if place.zero? && texts.first.match?(/\A(?:#{carrier})=/)
            mark = "?" if mark == "&" && !opened && marks.include?("?")
            opened ||= mark == "?"
            "#{mark}#{text}"
          end.join
        end
      end
    end
  end
end
