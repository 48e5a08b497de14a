# frozen_string_literal: true

module Orvant
  module Inventory
    # Reads pasted text: every address in it, with the words around.
    module Paste
      # @param bytes [String]
      # @param kind [String] of the links
      # @param place [String] where the text comes from
      # @param owner [String] who can change the links
      # @return [Collected]
      # @raise [Error::UnusableTable] for what is no text
      def self.read(bytes, kind: "other", place: "pasted text", owner: "", finder: AddressText.new)
        text, encoding = TextBytes.decode(bytes)
        lines = text.lines
        collected = Collected.new(encoding: encoding)
        finder.in(text).each do |found|
          around = lines[found.line - 1].to_s.strip[0, Cut::LINE]
          collected.items << Sighting.new(
            address: Address.parse(found.text),
            kind: kind,
            place: place,
            owner: owner,
            line: found.line,
            text: around
          )
        rescue Error::UnusableAddress => error
          collected.rejected << Table::Rejected.new(
            line: found.line,
            reason: error.message,
            cells: [found.text[0, Cut::CELL]]
          )
        end
        if collected.items.empty? && collected.rejected.empty?
          raise Error::UnusableTable, "The text holds no address that begins with http:// or https://."
        end

        collected
      end
    end
  end
end
