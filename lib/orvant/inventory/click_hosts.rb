# frozen_string_literal: true

module Orvant
  module Inventory
    # Finds the hosts that a click on an ad may ask before it lands. Any of them may charge for the click, so
    # none is requested before a person has said what it does.
    module ClickHosts
      # The authority of an address within a text, without name and password; an address may leave out its
      # scheme.
      AUTHORITY = %r{(?:https?:[/\\]*|(?<=[=(,;|])[/\\]{2})(?:[^/\\?#\s"'<>@]*@)*([^/\\?#\s"'<>&@]+)}i
      # So often an address may be encoded within others.
      DEEPEST = 4
      # What can be the name of a server; a token in its place cannot.
      NAME = /\A(?:[a-z0-9_-]+\.)+[a-z0-9-]+\z|\A\[[0-9a-f:.]+\]\z/

      # One such host. host: its name · part: where it stands (`click address`, `pattern`, `tail`, `own
      # tokens`, `landing address`) · example: the text it stands in.
      Found = Struct.new(:host, :part, :example, keyword_init: true)

      class << self
        # @param sighting [Sighting]
        # @return [Array<Found>] each host once; none where the sighting is no ad
        def of(sighting)
          return [] unless sighting.kind == "ad"

          landing = landing_host(sighting)
          texts(sighting).flat_map { |part, text| within(part, text) }
            .uniq(&:host)
            .reject { |found| found.host == landing }
        end

        private

        # An ad lands where it says; a landing address that leads on to another one is a click address by
        # another name, and lands there.
        def landing_host(sighting)
          return hosts_in(sighting.declared.raw).last if sighting.declared

          hosts = hosts_in(sighting.address.raw)
          hosts.last if hosts.size > 1
        end

        def texts(sighting)
          click = sighting.click.to_h
          facts = sighting.facts.to_h
          [
            ["click address", sighting.address.raw],
            ["click address", click["address"]],
            *click["levels"].to_a.flat_map { |level| of_level(level) },
            ["pattern", facts["pattern"]],
            ["tail", facts["tail"]],
            ["landing address", sighting.declared&.raw]
          ].reject { |_, text| text.to_s.empty? }
        end

        def of_level(level)
          own = level["own"].to_h.values.map { |value| ["own tokens", value.to_s] }
          [["pattern", level["pattern"]], ["tail", level["tail"]], *own]
        end

        def within(part, text)
          hosts_in(text).map { |host| Found.new(host: host, part: part, example: text[0, Cut::CELL]) }
        end

        # @return [Array<String>] the host of the address itself first, then those within it
        def hosts_in(text)
          plain = text
          hosts = hosts_of(plain)
          DEEPEST.times do
            decoded = Address::Pair.decode(plain)
            break if decoded == plain

            plain = decoded
            hosts |= hosts_of(plain)
          end
          hosts
        end

        def hosts_of(text)
          text.scan(AUTHORITY).filter_map do |(authority)|
            name = Address::HostName.normal(authority.sub(/:\d*\z/, ""))
            name if name.match?(NAME)
          end.uniq
        end
      end
    end
  end
end
