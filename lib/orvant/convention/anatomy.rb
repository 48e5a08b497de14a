# frozen_string_literal: true

module Orvant
  class Convention
    # Takes an address apart for the eye, without losing a byte: joined again, the texts are the address.
    module Anatomy
      # part: `scheme`, `host`, `path`, `mark`, `name`, `value` or `fragment` · text: raw · role: of a
      # carrier, else nil · pair: number of the parameter, from 0, else nil.
      Part = Struct.new(:part, :text, :role, :pair, keyword_init: true) do
        def to_h = members.to_h { |name| [name.to_s, self[name]] }.compact
      end

      class << self
        # @param address [Address]
        # @param convention [Convention]
        # @return [Array<Part>]
        def of(address, convention)
          return [Part.new(part: "path", text: address.raw)] unless address.authority

          head(address) + query(address.query,
            convention) + (address.fragment ? [part("mark", "#"), part("fragment", address.fragment)] : [])
        end

        private

        def part(part, text, **facts) = Part.new(part: part, text: text, **facts)

        def head(address)
          [part("scheme", "#{address.scheme}://"), part("host", address.authority),
            part("path", address.path)].reject { |one| one.text.empty? }
        end

        def query(query, convention)
          return [] unless query

          number = -1
          query.split(/(&)/, -1).reject(&:empty?).flat_map do |text|
            next [part("mark", "&")] if text == "&"

            number += 1
            pair(text, number, convention)
          end.unshift(part("mark", "?"))
        end

        def pair(text, number, convention)
          name, equals, value = text.partition("=")
          role = convention.carriers[Address::Pair.decode(name)]&.name
          [part("name", name, role: role, pair: number), part("mark", equals, pair: number),
            part("value", value, role: role, pair: number)].reject { |one| one.text.empty? }
        end
      end
    end
  end
end
