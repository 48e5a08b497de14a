# frozen_string_literal: true

require "csv"

module Orvant
  module Traffic
    # Reads a table of session rows: by its first lines it finds out what stands where, then it reads row by
    # row, so that a file of any size takes no more memory than its parts.
    class SessionTable < Inventory::TableReader
      FIELDS = {
        date: ["date", "day", "date hour", "date and hour"],
        sessions: ["sessions", "visits"],
        source: ["source"],
        medium: ["medium"],
        campaign: ["campaign"],
        content: ["content"],
        term: ["term", "keyword"],
        landing: ["landing page", "landing", "landing address"],
        referrer: ["referrer", "referrer host", "referring host"],
        conversions: ["conversions"],
        revenue: ["revenue", "value"],
        cost: ["cost", "costs", "spend"],
        pages: ["pages", "pages seen", "page views"],
        engaged: ["engaged", "engaged sessions", "sessions with activity"],
        events: ["events", "events counted"],
        device: ["device", "device kind"],
        country: ["country"],
        language: ["language"],
        host: ["host", "host name"],
        visitor: ["visitor", "new or returning"],
        click: ["click", "click identifier"], currency: ["currency"]
      }.freeze
      TELLING = :date
      RECOGNISED = ->(cell) { Days.like?(cell) }
      # Own dimensions are matched under names with this before them; a column may have such a name itself.
      OWN = "own "
      # The own dimension that says which event conversions are of, and how reports name its column.
      EVENT = "event"
      EVENTS = ["event", "event name", "conversion name"].freeze
      # Bytes that are looked at to find out what stands where, and a line that is read.
      HEAD = 262_144
      MOST_LINE = 1_048_576
      # Lines over which one row may go.
      MOST_LINES = 200
      # Bytes among which a glance finds a line, and how many glances tell how days are written.
      MOST_GLANCED = 4_096
      GLANCES = 400
      # Rows that are set apart and shown; the rest are counted.
      MOST_REJECTED = 2_000
      WHOLE = /\A(?:PK|\xFF\xFE|\xFE\xFF|\s*[\[{])/n

      class << self
        # @param bytes [String]
        # @param matching [Hash{String => String}, #call]
        # @param dates [String, nil] one of Days::ORDERS
        # @return [Inventory::Collected] its items are Rows
        # @raise [Error::UnusableTable]
        def read(bytes, matching: {}, dates: nil, **)
          table = new(bytes: bytes, matching: matching, dates: dates)
          rows = []
          table.each do |combination, day, measures, line|
            rows << Row.of(combination, day, measures, line: line)
          end
          table.collected(rows)
        end
      end

      # @return [Integer] bytes that have been read
      attr_reader :done
      # @return [Array<String>] sentences on the file
      attr_reader :notes
      # @return [Integer] rows that could not be read
      attr_reader :rejected_count

      # @param path [String, nil] a file
      # @param bytes [String, nil] or what it holds
      # @param matching [Hash{String => String}, #call] field => name of its column, or what gives it for a
      #   header
      # @param dates [String, nil] one of Days::ORDERS, where a person has said so
      # @param currency [String, nil]
      # @raise [Error::UnusableTable] where nothing can be read; Days::Ambiguous where the dates can be read
      #   in two ways
      def initialize(path: nil, bytes: nil, matching: {}, dates: nil, currency: nil)
        @path = path
        @bytes = bytes
        head = path ? File.binread(path, HEAD).to_s : bytes.byteslice(0, HEAD)
        @whole = WHOLE.match?(head.byteslice(0, 8).b)
        super(Inventory::Table.read(@whole ? all : first_lines(head)), matching: matching)
        @utf8 = @table.encoding == "UTF-8" && !head.b.ascii_only?
        @notes = @table.notes + @columns.notes(beside: own_dimensions.values)
        @rejected = []
        @rejected_count = 0
        @done = 0
        unless @columns.field?(:sessions)
          raise Error::UnusableTable,
            "No column can be read as “sessions”; its columns are: #{@columns.names.values.join(", ")}."
        end

        @cells = SessionCells.new(
          @columns.positions,
          own: own_dimensions,
          days: days(dates),
          comma: commas,
          currency: currency
        )
      end

      # @yieldparam combination [Combination]
      # @yieldparam day [Date]
      # @yieldparam measures [Array<Integer>]
      # @yieldparam line [Integer] in the file, from 1
      def each(&)
        @whole ? each_row(&) : each_line(&)
        if @rejected_count > MOST_REJECTED
          @notes << "#{@rejected_count} rows could not be read; the first #{MOST_REJECTED} are shown."
        end
      end

      # @return [Array<Inventory::Table::Rejected>]
      attr_reader :rejected

      # A glance at a file of any size: the days of lines that stand at even distances.
      #
      # @return [Range<Date>, nil] from the first of them to the last; nil where none can be read
      def glance
        days = glanced.filter_map { |cells| day_of(cells) }
        Range.new(*days.minmax) if days.any?
      end

      # @return [Hash{String => String}] field => name of the column it was read from
      def columns = @columns.names

      # @return [String, nil] of a text file
      def encoding = @table.encoding

      # @return [Array<Integer>] which of MEASURES the file has
      def measured = MEASURES.each_index.select { |index| @columns.field?(MEASURES[index]) }

      # @return [Array<String>] names of the columns
      def header = @columns.header_names

      # @param rows [Array<Row>]
      # @return [Inventory::Collected]
      def collected(rows)
        Inventory::Collected.new(
          items: rows,
          rejected: rejected.sort_by(&:line),
          notes: notes,
          columns: @columns.names,
          header: header,
          encoding: @table.encoding
        )
      end

      private

      def all = @bytes || File.binread(@path, Inventory::Table::MAX_BYTES + 1)

      # A line that is cut off says nothing.
      def first_lines(head)
        ending = (head.bytesize < HEAD) ? nil : head.b.rindex("\n".b)
        ending ? head.byteslice(0, ending + 1) : head
      end

      # Lines at even distances, and the last; a line within a quote says nothing that can be read.
      #
      # @return [Array<Array<String>>] their cells
      def glanced
        size = @path ? File.size(@path) : @bytes.bytesize
        lines = Array.new(GLANCES) { |number| piece(number * size / GLANCES).split("\n", 3)[1] }
        lines << piece([size - MOST_GLANCED, 0].max).split("\n").last
        lines.compact.map { |line| readable(line).chomp.split(separator, -1) }
      end

      def piece(place)
        (@path ? File.binread(@path, MOST_GLANCED, place).to_s : @bytes.byteslice(place, MOST_GLANCED)).b
      end

      def day_of(cells)
        @cells.day(cells)
      rescue Error::UnusableRow
        nil
      end

      def own_dimensions
        said = @columns.said.select { |name, _| name.start_with?(OWN) }
          .to_h { |name, column| [name.delete_prefix(OWN), header.index(column)] }.compact
        taken = @columns.positions.values
        header.each_with_index.reject { |_, position| taken.include?(position) || said.value?(position) }
          .to_h { |name, position| [own_name(name.to_s.downcase.strip), position] }.reject { |name, _|
            name.nil?
          }.merge(said)
      end

      def own_name(column)
        return EVENT if EVENTS.include?(column)

        column.delete_prefix(OWN) if column.start_with?(OWN) && column.size > OWN.size
      end

      # Which of two numbers is the month may show late in a file that is in the order of its days.
      def days(said)
        texts = telling(:date)
        texts += glanced.filter_map { |cells| cells[@columns.positions[:date]] } unless @whole
        Days.new(texts, said: said)
      end

      def commas
        fields = SessionCells::AMOUNTS.select { |field| @columns.field?(field) }
        fields.to_h { |field| [field, Inventory::Amount.comma?(telling(field))] }
      end

      def telling(field) = @columns.rows.first(TELLING_ROWS).map { |row| @columns.cell(row, field) }

      def each_row(&)
        @columns.rows.each { |row| hand_on(row.cells, row.line, &) }
        @table.rejected.each { |row| reject(row.line, row.reason, row.cells) }
      end

      def hand_on(cells, line)
        raise Error::UnusableRow, "The row holds a byte that is no text." if cells.any? { |cell| cell.to_s.include?("\0") }

        yield(*@cells.read(cells), line)
      rescue Error::UnusableRow => error
        reject(line, error.message, cells)
      end

      # Most rows of a report are plain.
      def each_line(&)
        header_line = @columns.header_line.to_i
        plain = @cells.plain(separator, header.size)
        source do |io|
          number = 1
          while (line = next_line(io))
            if number > header_line && (read = plain&.read(line))
              combination, day, measures = read # A splat would make four lists of each row.
              yield(combination, day, measures, number)
              next number += 1
            end

            text = held_together(io, readable(line))
            part(text, number, &) if number > header_line && text != "\n"
            number += text.include?('"') ? text.count("\n").clamp(1, nil) : 1
          end
        end
      end

      # A line, or several that a quote may hold together: where there are quotes, CsvRows reads what they
      # hold together.
      def part(text, number, &)
        if text.bytesize >= MOST_LINE
          return reject(number, "The line holds more than #{MOST_LINE / 1_048_576} MB.", [text[0, Cut::CELL]])
        end
        return hand_on(text.chomp.split(separator, -1), number, &) unless text.include?('"')

        Inventory::CsvRows.new(text, separator).each do |line, cells, reason|
          if reason
            reject(number + line - 1, reason, [text.lines[line - 1].chomp])
          else
            hand_on(cells, number + line - 1, &)
          end
        end
      end

      def separator = @separator ||= @table.separator

      def source
        io = @path ? File.open(@path, "rb") : StringIO.new(@bytes.b)
        yield io
      ensure
        io&.close
      end

      def next_line(io)
        line = io.gets("\n", MOST_LINE) or return
        @done += line.bytesize
        pass_rest(io) if line.bytesize >= MOST_LINE && !line.end_with?("\n")
        line
      end

      # A line that is longer than is read is one line all the same.
      def pass_rest(io)
        while (more = io.gets("\n", MOST_LINE))
          @done += more.bytesize
          break if more.end_with?("\n")
        end
      end

      # A cell may go over several lines: its quotes do not close on the first. A quote that never closes
      # costs its own row and no other.
      def held_together(io, line)
        return line unless line.include?('"')

        taken = 1
        while line.count('"').odd? && (taken += 1) <= MOST_LINES && line.bytesize < MOST_LINE && (more = next_line(io))
          line << readable(more)
        end
        line
      end

      # @return [String] in UTF-8, with `\n` at its end, whatever it was in; a byte that is no text is a zero
      #   byte, which costs its row
      def readable(line)
        line.force_encoding(Encoding::UTF_8)
        line = line.delete_prefix("\uFEFF") if @done == line.bytesize && line.start_with?("\uFEFF")
        unless line.valid_encoding?
          line.force_encoding(Encoding::Windows_1252) unless @utf8
          line = line.encode(Encoding::UTF_8, invalid: :replace, undef: :replace, replace: "\0")
        end
        line.end_with?("\r\n") ? "#{line.chomp}\n" : line
      end

      def reject(line, reason, cells)
        @rejected_count += 1
        if @rejected.size < MOST_REJECTED
          @rejected << Inventory::Table::Rejected.new(
            line: line,
            reason: reason,
            cells: cells.first(Cut::CELLS).map { |cell| cell.to_s[0, Cut::CELL] }
          )
        end
      end
    end
  end
end
