# frozen_string_literal: true

module Orvant
  class Convention
    class Segments
      # Walks along a name once, segment by segment, longest stretch first, and remembers how far it came.
      class Walk
        # @param list [Array<Segment>]
        # @param separator [String]
        # @param name [String]
        def initialize(list, separator, name)
          @list = list
          @separator = separator
          @words = name.split(separator, -1)
          @furthest = Match.new(stretches: {}, segment: nil, text: "", from: -1, failed: true)
          @dead = {}
        end

        # @return [Match]
        def match
          found = walk(0, 0)
          found ? Match.new(stretches: found.to_h, failed: false) : @furthest
        end

        private

        # @return [Array<Array(String, String)>, nil] the segments from one word on
        def walk(place, from)
          return finish(from) if place == @list.size
          return if @dead[[place, from]]

          taken(place, from) || skipped(place, from) || begin
            @dead[[place, from]] = true
            nil
          end
        end

        def finish(from)
          return [] if from == @words.size

          remember(nil, @words[from..].join(@separator), from)
        end

        def taken(place, from)
          segment = @list[place]
          [segment.span, @words.size - from].min.downto(1) do |count|
            text = @words[from, count].join(@separator)
            next unless segment.accept?(text)

            rest = walk(place + 1, from + count)
            return [[segment.name, text]] + rest if rest
          end
          remember(segment, stretch(segment, from), from)
        end

        # Where a value holds the separator, a slip in it is a slip of the whole value.
        def stretch(segment, from)
          longest = [segment.span, @words.size - from].min
          longest.downto(1).map { |count| @words[from, count].join(@separator) }
            .find { |text| segment.near(text) } ||
            @words[from].to_s
        end

        def skipped(place, from) = (walk(place + 1, from) if @list[place].optional?)

        # Of those that fail at one word, the one that must stand there is named.
        def remember(segment, text, from)
          known = @furthest.segment
          return if @furthest.from > from || (@furthest.from == from && known && !known.optional?)

          @furthest = Match.new(stretches: {}, segment: segment, text: text, from: from, failed: true)
          nil
        end
      end
    end
  end
end
