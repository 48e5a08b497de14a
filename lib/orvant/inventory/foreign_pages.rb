# frozen_string_literal: true

module Orvant
  module Inventory
    # Looks at others' pages and profiles for links that lead to the advertiser. Runs inside an Async reactor.
    module ForeignPages
      class << self
        # @param door [Net::Door]
        # @param addresses [Array<Address>]
        # @param hosts [Hosts] own and relay hosts
        # @param kind [String] `page` or `post`
        # @param progress [#call] pages read so far, pages in all; answers false to stop
        # @return [Collected]
        def read(door, addresses, hosts:, kind: "page", owner: "", progress: ->(_, _) { true })
          reader = SiteReader.new(door)
          collected = Collected.new
          addresses.each.with_index(1) do |address, number|
            look(reader, address, collected, hosts: hosts, kind: kind, owner: owner, number: number)
            break unless progress.call(number, addresses.size)
          end
          collected
        end

        private

        def look(reader, address, collected, hosts:, kind:, owner:, number:)
          read = reader.read(address)
          collected.pages << read.page
          return reject(collected, address, read.page, number) if read.page.reason

          found = read.links.select { |link, _| hosts.cover?(link.host) }
          collected.notes << "#{address.page} links to no host of the workspace." if found.empty?
          found.each do |link, anchor|
            collected.items << Sighting.new(address: link,
              kind: kind,
              place: address.page,
              owner: owner,
              page: address,
              text: anchor.text,
              part: "link #{anchor.position}",
              line: anchor.position,
              facts: anchor.rel.any? ? {"rel" => anchor.rel.join(" ")} : nil)
          end
        end

        def reject(collected, address, page, number)
          collected.rejected << Table::Rejected.new(
            line: number,
            reason: page.reason,
            cells: [address.raw[0, Cut::CELL]]
          )
        end
      end
    end
  end
end
