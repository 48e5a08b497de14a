# frozen_string_literal: true

module Orvant
  module Inventory
    # What reading one file may cost, whatever it says of itself. Small files can unfold to anything.
    class Budget
      # Bytes to which all parts of a packed file may unfold.
      BYTES = 200 * 1024 * 1024
      # Cells of a table, and the cells of a sheet to which one link may apply.
      CELLS = 10_000_000
      LINKED_CELLS = 1_000_000
      # Multipart parts within one message, nested or not.
      PARTS = 100
      # Levels of JSON.
      DEPTH = 20
      # Seconds for a whole table.
      SECONDS = 600.0
      # The clock is looked at once for so many rows.
      ROWS = 1_000

      # @param seconds [Float]
      # @param cells [Integer]
      def initialize(seconds: SECONDS, cells: CELLS)
        @seconds = seconds
        @most = cells
        @began = now
        @cells = 0
        @rows = 0
      end

      # Takes what one row costs.
      #
      # @param cells [Integer]
      # @raise [Error::UnusableTable] where the file costs too much
      def row(cells)
        @cells += cells
        @rows += 1
        too_much("it holds more than #{@most} cells") if @cells > @most
        if (@rows % ROWS).zero? && now - @began > @seconds
          too_much("reading it takes longer than #{@seconds.to_i} s")
        end
      end

      private

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      def too_much(what) = raise(Error::UnusableTable, "The file cannot be read: #{what}. Split it.")
    end
  end
end
