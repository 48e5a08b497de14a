# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # One side of a link that a check may look at. What was found is remembered by all that stands there on
      # the sides that checks have declared, so that a check which looks at something else is never answered
      # from memory.
      #
      # names: the methods of LinkSubject and its parts that it opens · side: what stands there, nil for what
      # all findings are remembered by (LinkSubject#faults) · rests: sides of which it is worked out besides.
      Aspect = Struct.new(:names, :side, :rests, keyword_init: true) do
        # @param name [Symbol]
        # @return [Aspect]
        # @raise [ArgumentError] where there is none of the name
        def self.of(name)
          Aspect::ALL.fetch(name) do
            raise ArgumentError,
              "There is no side “#{name}” of a link; there are #{Aspect::ALL.keys.join(", ")}."
          end
        end
      end

      class Aspect
        # What every check may use: the rules are the same for all links that share a memory, and the rest
        # only words a finding.
        ALWAYS = %i[convention rules kind number_seen pair_at evidence without].freeze

        READINGS = %i[readings readings_of unsound as_written mended pair_of numbers_of number_of occurrences channel].freeze

        ALL = {
          # How the address is built, where that is not right.
          build: new(names: %i[misbuilt], side: ->(link) { link.seen.raw if link.misbuilt }),
          # What is wrong with the values of its roles, and of those that decide on channels the very values.
          # What else a value says may stand in the words of a finding; whether there is one must not depend
          # on it.
          faults: new(names: READINGS, rests: %i[network]),
          # The values of its roles, whatever is wrong with them.
          values: new(
            names: READINGS,
            side: ->(link) { link.carried.known_pairs },
            rests: %i[network]
          ),
          # What it must carry.
          required: new(
            names: %i[missing_roles required? only_value],
            side: ->(link) { link.demands.asked? },
            rests: %i[network]
          ),
          # Parameters that carry no role, or another name than their role's.
          names: new(
            names: %i[foreign misnamed],
            side: ->(link) { link.carried.strange_pairs }
          ),
          # What stands beside the parameters: in the user part, the path and the fragment.
          parts: new(
            names: %i[personal_parts part_tokens path_carrier],
            side: ->(link) { link.strays.seen_parts }
          ),
          # Identifiers that it must carry.
          identifiers: new(
            names: %i[identifiers demanded_otherwise pairs_for],
            side: ->(link) { link.carried.identifier_pairs },
            rests: %i[names network]
          ),
          # Where it was found.
          place: new(
            names: %i[internal campaign_names],
            side: ->(link) {
              pages = link.whereabouts.internal.filter_map(&:page).map(&:raw)
              pages << link.seen.raw if pages.any?
            }
          ),
          # What its place has lost since it was last read.
          lost: new(names: %i[lost robbed], side: ->(link) { link.whereabouts.robbed&.facts }),
          network: new(names: %i[network], side: ->(link) { link.whereabouts.network }),
          host: new(names: %i[host], side: ->(link) { link.host }),
          path: new(names: %i[path], side: ->(link) { link.path }),
          # The whole of it: nothing is remembered beyond the very address.
          address: new(names: %i[address seen], side: ->(link) { link.seen.raw })
        }.freeze
      end
    end
  end
end
