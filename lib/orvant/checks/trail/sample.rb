# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Makes trails for the examples of the family from the addresses of their hops.
      module Sample
        ASIDE = /\A(declared|target|took|no-page|again):/

        class << self
          # @param example [Array<String>] addresses, the last entry a status (`"200"`) or an outcome
          #   (`"loop"`). Entries such as `declared:http://…`, `target:http://…` and `took:3500` say what is
          #   known beside, as do `no-page:expired Gone.` and `again:410`; `script:http://…` is reached by
          #   script.
          # @return [Orvant::Trail]
          def trail(example)
            *written, ending = example.grep_v(ASIDE)
            ways = written.map { |text| text[/\A(script|meta|refresh):/, 1] || "status" }
            addresses = written.map { |text| Address.parse(text.sub(/\A(script|meta|refresh):/, "")) }
            status = ending[/\A\d+\z/]&.to_i
            outcome = if status
              (status < 400) ? "landed" : "broken"
            else
              ending
            end
            Orvant::Trail.new(address: addresses.first.raw,
              outcome: outcome,
              final_address: addresses.last.raw,
              status: status, reason: "Seen in the example.", engine: "http", visitor: "desktop",
              landing: landing(example),
              look: aside(example, "again").first&.then { |said| Orvant::Trail::Look.new(by: "http", again: said) },
              hops: hops(addresses, ways, status, aside(example, "took").first.to_f))
          end

          # @param example [Array<String>]
          # @return [Array<Inventory::Sighting>] what the example says is declared or registered
          def sightings(example)
            declared, target = %w[declared target].map { |name| aside(example, name).map { |text| Address.parse(text) } }
            declared.map { |address| Inventory::Sighting.new(kind: "ad", declared: address) } + target.map { |address| Inventory::Sighting.new(kind: "short-link", target: address) }
          end

          # @param example [Array<String>] `ad 12 declares http://…`
          # @return [Array<Param::Entry>] links that those ads open
          def ads(example)
            example.each_with_index.map do |text, index|
              id, declared = text.match(/\Aad (\S+) declares (\S+)/).captures
              sighting = Inventory::Sighting.new(
                kind: "ad",
                declared: Address.parse(declared),
                facts: {"network" => "Lanternfind", "id" => id}
              )
              Param::Entry.new(id: index, address: Address.parse(declared), kind: "ad", sightings: [sighting])
            end
          end

          private

          def landing(example)
            kind, said = aside(example, "no-page").first&.split(" ", 2)
            {"no_page" => {"kind" => kind, "said" => said, "sure" => true}} if kind
          end

          def aside(example, name) = example.grep(/\A#{name}:/).map { |text| text.delete_prefix("#{name}:") }

          def hops(addresses, ways, status, took)
            addresses.each_with_index.map do |address, index|
              following = addresses[index + 1]
              Orvant::Trail::Hop.new(address: address.raw, status: following ? 301 : status,
                how: following && ways[index + 1], ms: [took / addresses.size, 1.0].max,
                params: following ? Orvant::Trail::Fates.between(address, following) : [])
            end
          end
        end
      end
    end
  end
end
