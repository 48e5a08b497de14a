# frozen_string_literal: true

require "digest"

module Orvant
  class Trail
    # Which trails share what only a browser can tell: all that pass the same pages as the same visitor. It
    # looks at a few of them that differ in which parameters they carry; where it sees what HTTP has read,
    # that holds for the others, and where not, each is followed in it.
    module Looks
      # So many of the trails of one page are looked at: the commonest sets of parameters; where its scripts
      # may act on values, of different values.
      SAMPLES = 3
      VALUES = 20

      class << self
        # @param trail [Trail] followed by HTTP
        # @param convention [Convention, nil] tells pages apart; without one the names of parameters do
        # @return [String, nil] the same for all trails that share a look; nil where none is needed
        def key(trail, convention = nil)
          return if trail.unseen.to_a.empty?

          pages = trail.unseen.map { |text| page(Address.of(text), convention) }
          Digest::SHA256.hexdigest([trail.visitor, trail.outcome, *pages].join("\n"))[0, Cut::DIGEST]
        end

        # @param pages [Array<String>, nil] the addresses in question
        # @param acts [Boolean] whether scripts on them may act on values
        # @return [String] the same for all trails that one of them may stand for: by the names of the
        #   parameters with which they come there, and by their values where these may count
        def carried(pages, acts: false)
          pairs = pages.to_a.flat_map { |text| Address.of(text).pairs }
          return Digest::SHA256.hexdigest(pairs.map(&:raw).uniq.sort.join("&"))[0, Cut::DIGEST] if acts

          pairs.map(&:name).uniq.sort.join(" ")[0, Cut::CELL]
        end

        # @param acts [Boolean] whether scripts of the page may act on values
        # @return [Integer] how many trails of it are looked at
        def most(acts) = acts ? VALUES : SAMPLES

        # @param sets [Array<Array(Integer, Object)>] of one page: how many trails carry the same, and one of
        #   them
        # @param most [Integer] how many are still to be looked at
        # @return [Array<Object>] those that are looked at: of the commonest sets one each
        def samples(sets, most:)
          commonest = sets.sort_by.with_index { |(size, _), index| [-size, index] }.map(&:last)
          commonest.first([most, 0].max)
        end

        # @param read [Trail] by HTTP
        # @param seen [Trail] of the same address, in a browser
        # @return [Boolean] whether the browser went the same way and stayed at the same address
        def as_read?(read, seen)
          read.outcome == seen.outcome &&
            read.final_address == seen.final_address &&
            shown(read) == shown(seen) &&
            read.hops.map { |hop| [hop.address, hop.how] } == seen.hops.map { |hop| [hop.address, hop.how] }
        end

        # @param first [Trail] by HTTP
        # @param second [Trail] of the same address afterwards
        # @return [String, nil] what the second asking was answered, where the first was whole and the very
        #   same request is answered otherwise
        def again(first, second)
          return if !whole?(first) || whole?(second)

          one, other = first.hops.zip(second.hops).find { |ours, theirs| ours&.status != theirs&.status }
          return unless one && other && one.address == other.address && other.status

          second.reason || "it answers #{other.status}"
        end

        # @param trail [Trail] with what is to be said of its page
        # @return [Boolean] whether it landed on a page that shows what was promised, as far as that is known
        def whole?(trail) = trail.landed? && !shown(trail)

        private

        # Why a page shows nobody what was promised, as far as that is known.
        def shown(trail) = trail.landing.to_h.dig("no_page", "kind")

        # Out on others' hosts parameters only say where to.
        def page(address, convention)
          return [address.page, *address.pairs.map(&:name).uniq.sort].join(" ") unless convention

          convention.own_hosts.cover?(address.host) ? convention.page_of(address) : address.page
        end
      end
    end
  end
end
