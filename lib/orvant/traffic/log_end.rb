# frozen_string_literal: true

require "zlib"

module Orvant
  module Traffic
    # The end of an access log that grows, and that is laid aside under another name from time to time. Its
    # lines stand nearly in order of time, so that a moment is found by halving, however long the log is.
    class LogEnd
      # Lines that are tried where one cannot be read.
      TRIES = 200
      MOST_LINE = Sessions::MOST_LINE
      # Bytes below which halving is not worth it.
      NEAR = 65_536
      # Bytes at the end among which the last line that can be read is looked for.
      TAIL = 1_048_576

      # @param path [String]
      def initialize(path)
        @path = path
      end

      # @return [Time, nil] of the last whole line that can be read
      # @raise [SystemCallError]
      def last
        File.open(@path, "rb") do |file|
          file.seek([file.size - TAIL, 0].max)
          file.read.to_s.lines.last(TRIES).reverse.filter_map { |line|
            time(line) if line.end_with?("\n")
          }.first
        end
      end

      # Writes the lines from a moment on; what was laid aside before the log was begun anew comes first.
      #
      # @param from [Time]
      # @param to [IO]
      # @raise [SystemCallError]
      def write(from, to)
        before = laid_aside if first.nil? || first > from
        if before
          before.end_with?(".gz") ? unpacked(before, from, to) : copy(before, from, to)
        end
        copy(@path, from, to)
      end

      private

      def time(line)
        text = line.dup.force_encoding(Encoding::UTF_8)
        LogLine.read(text.valid_encoding? ? text.chomp : text.scrub.chomp)&.time
      end

      def first = File.open(@path, "rb") { |file| next_time(file) }

      def next_time(file)
        TRIES.times do
          line = file.gets("\n", MOST_LINE) or return
          found = time(line)
          return found if found
        end
        nil
      end

      # @return [String, nil] the youngest of the files beside it that are called as it is, and more
      def laid_aside
        others = Dir.children(File.dirname(@path))
          .select { |name| name.start_with?("#{File.basename(@path)}.", "#{File.basename(@path)}-") }
        others.map { |name| File.join(File.dirname(@path), name) }
          .select { |path| File.file?(path) }
          .max_by { |path| File.mtime(path) }
      end

      def copy(path, from, to)
        File.open(path, "rb") do |file|
          file.seek(line_start(file, from))
          # What is being written while it is read is left for the next time.
          file.each_line("\n", MOST_LINE) { |line| to.write(line) if line.end_with?("\n") }
        end
      end

      # @return [Integer] where a line begins, at or a little before the first of that moment
      def line_start(file, from)
        low, high = 0, file.size
        while high - low > NEAR
          middle = (low + high) / 2
          file.seek(middle)
          file.gets("\n", MOST_LINE)
          at = next_time(file)
          (at.nil? || at >= from) ? high = middle : low = middle
        end
        begin_line(file, low)
      end

      def begin_line(file, at)
        file.seek(at)
        file.gets("\n", MOST_LINE) if at.positive?
        file.pos
      end

      def unpacked(path, from, to)
        Zlib::GzipReader.open(path) do |io|
          io.each_line("\n", MOST_LINE) { |line| to.write(line) if (at = time(line)) && at >= from }
        end
      rescue Zlib::Error
        nil # What was packed and ends in the middle gives what could be unpacked.
      end
    end
  end
end
