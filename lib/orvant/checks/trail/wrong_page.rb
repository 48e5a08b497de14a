# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds links to a page of one's own that end at the home page instead; and, over many links, pages of
      # different names that all end at one.
      class WrongPage < Check
        describes "trail/wrong-page", weight: "skews",
          why: "Who was promised a product and finds the home page leaves; reports show a landing page that nobody has advertised.",
          fails: %w[http://www.skerryline.example/day-pass http://www.skerryline.example/ 200],
          passes: %w[http://www.skerryline.example/day-pass http://www.skerryline.example/tickets/day-pass 200]
        HOME = %r{\A/?(?:[a-z]{2}(?:[-_][a-z]{2})?/?)?(?:(?:index|home|default|start)(?:\.[a-z]{2,5})?/?)?\z}i
        # So many pages of different names end at one.
        MANY = 3
        NAMED = 500

        class << self
          # @param ways [Array<Array(Object, Address, Address)>] of links with an address of one's own: their
          #   ids, that address, and the page of one's own at which they end
          # @return [Array<Finding>]
          def over(ways)
            moved = ways.select { |_, from, to| strayed?(from, to) }
            moved.group_by { |_, _, to| to.page }
              .select { |_, same| same.uniq { |_, from, _| from.page }.size >= MANY }
              .map { |page, same| new(nil).many(page, same) }
          end

          private

          # Where a page has moved, something of its name has moved along.
          def strayed?(from, to)
            return false if from.host != to.host || from.path.match?(HOME) || to.path.match?(HOME)

            (words(from) & words(to)).empty?
          end

          def words(address) = address.plain_path.downcase.scan(/[[:alpha:]]{3,}/)
        end

        def findings
          return [] unless subject.trail.landed? && (from = promised)

          to = subject.addresses.last
          [finding("The link leads to #{from.page} and ends at the home page #{to.page}: its visitors do not find what they were promised.",
            place: {"hop" => subject.trail.hops.size, "server" => to.host, "promised" => from.page},
            evidence: subject.lines,
            root: "trail/wrong-page #{from.page}",
            remedy: remedy(from.page))]
        end

        # @return [Finding] on pages that end at one
        def many(page, same)
          pages = same.map { |_, from, _| from.page }.uniq
          finding("#{pages.size} pages of different names (#{pages.first(3).join(", ")} …) all end at #{page}: cannot tell whether their visitors find what they were promised, look.",
            weight: "untidy",
            place: {"page" => page, "links" => same.map(&:first).first(NAMED)},
            evidence: same.map { |_, from, to| "#{from.page} ends at #{to.page}" }.uniq.first(NAMED),
            root: "trail/wrong-page > #{page}",
            remedy: Remedy.new(
              action: "Let each of these pages lead to what takes its place, or change the links that lead there.",
              at: "server",
              place: page
            ))
        end

        private

        # A short name in print that hands on campaign values is meant so.
        def promised
          to = subject.addresses.last
          return unless own?(to) && to.path.match?(HOME)

          from = subject.addresses[0...-1].find { |address| own?(address) && !address.path.match?(HOME) }
          from unless from.nil? || named_in_print?
        end

        def own?(address) = subject.convention.shows_own?(address.host)

        def named_in_print?
          subject.trail.hops.any? { |hop|
            hop.params.any? { |fate| fate.fate == "added" && subject.convention.carriers.key?(fate.name) }
          }
        end

        def remedy(page)
          Remedy.new(
            action: "Bring #{page} back, or let it lead to what takes its place.",
            at: "server",
            place: page
          )
        end
      end
    end
  end
end
