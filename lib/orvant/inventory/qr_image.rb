# frozen_string_literal: true

require "open3"
require "tempfile"
require "timeout"

module Orvant
  module Inventory
    # Reads the codes of a picture (PNG) with the decoder `zbarimg`, run as a process of its own with bounds.
    module QrImage
      SIGN = "\x89PNG\r\n\x1A\n".b
      MAX_SIDE = 10_000
      SECONDS = 20

      class << self
        # @param bytes [String]
        # @param place [String] where the code hangs
        # @return [Collected]
        # @raise [Error::UnusableTable] where no code can be read
        def read(bytes, place: "printed code", owner: "")
          check(bytes)
          collected = Collected.new
          decode(bytes).each.with_index(1) { |text, number| take(collected, text, number, place, owner) }
          if collected.items.empty? && collected.rejected.empty?
            raise Error::UnusableTable, "No code can be read in the picture."
          end

          collected
        end

        private

        def take(collected, text, number, place, owner)
          collected.items << Sighting.new(
            address: Address.parse(text),
            kind: "print",
            place: place,
            owner: owner,
            line: number,
            facts: {"read from" => "QR code", "shows" => "code"}
          )
        rescue Error::UnusableAddress => error
          collected.rejected << Table::Rejected.new(
            line: number,
            reason: "The code holds no address: #{error.message}",
            cells: [text[0, Cut::CELL]]
          )
        end

        def check(bytes)
          width, height = bytes.byteslice(16, 8).to_s.unpack("NN")
          if bytes.start_with?(SIGN) &&
              width &&
              height &&
              width.between?(1, MAX_SIDE) &&
              height.between?(1, MAX_SIDE)
            return
          end

          raise Error::UnusableTable, "The picture is no PNG of at most #{MAX_SIDE} by #{MAX_SIDE} dots."
        end

        def decode(bytes)
          Tempfile.create(["code", ".png"], binmode: true) do |file|
            file.write(bytes)
            file.flush
            texts = run(file.path)
            # Read as text, the decoder guesses a character set; one code alone can be had byte for byte.
            texts = run(file.path, "-Sbinary") if texts.size == 1
            texts
          end
        rescue Errno::ENOENT
          raise Error::UnusableTable,
            "The decoder zbarimg (Debian package zbar-tools) is not installed, so pictures of codes cannot be read."
        end

        def run(path, *options)
          output, = Open3.capture2e(
            "timeout",
            SECONDS.to_s,
            "zbarimg",
            "--quiet",
            "--raw",
            "-Sdisable",
            "-Sqrcode.enable",
            *options,
            path
          )
          output.force_encoding(Encoding::UTF_8).scrub.lines.map(&:strip)
            .reject { |line| line.empty? || line.match?(/\A(ERROR|WARNING|Connection)/) }
        end
      end
    end
  end
end
