# frozen_string_literal: true

require "tempfile"

module Orvant
  module Traffic
    # Puts the requests of any number of logs in order of time, in constant memory: parts are sorted and laid
    # by, and then merged.
    class SortedLog
      PART = 50_000
      # What parts the fields of one that is laid by: its number stands first, then the seconds.
      SIGN = "\t"

      def initialize
        @part = []
        @files = []
        @number = 0
      end

      # @param fields [Array] seconds, offset, and texts without tabs or line ends
      def add(fields)
        @part << [
          fields.first,
          @number += 1,
          fields.map { |field| field.to_s.gsub(/[\t\r\n]/, " ") }.join(SIGN)
        ]
        lay_by if @part.size >= PART
      end

      # @yieldparam fields [Array<String>] in order of time, and of the lines where times are the same
      def each
        return sorted.each { |_, _, line| yield line.split(SIGN, -1) } if @files.empty?

        lay_by
        heads = @files.each(&:rewind).filter_map { |file| file.gets&.then { |line| [key(line), line, file] } }
        until heads.empty?
          least = heads.min_by(&:first)
          yield least[1].chomp.split(SIGN, -1).drop(1)
          line = least[2].gets
          line ? least.replace([key(line), line, least[2]]) : heads.delete(least)
        end
      ensure
        @files.each(&:close!)
      end

      private

      def sorted = @part.sort_by { |seconds, number, _| [seconds, number] }

      def key(line) = [line.split(SIGN, 3)[1].to_i, line.to_i]

      def lay_by
        file = Tempfile.new("orvant-log")
        sorted.each { |_, number, line| file.puts("#{number}#{SIGN}#{line}") }
        file.flush
        @files << file
        @part = []
      end
    end
  end
end
