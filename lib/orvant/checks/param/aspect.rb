# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # One side of a link that a check may look at. Verdicts are remembered by the sides that checks have
      # declared, so that a check which looks at something else is never answered from memory.
      #
      # names: the methods of LinkSubject and its parts that it opens · mark: adds to a list what the codes
      # and weights of findings depend on · clean: the same of a link with nothing wrong in anything by itself
      # (LinkSubject#clean?), nil where then nothing is left of it.
      Aspect = Struct.new(:names, :mark, :clean, keyword_init: true) do
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
        ALWAYS = %i[convention rules kind number_seen pair_at evidence].freeze

        same = ->(name) { ->(link, found) { found << link.public_send(name) } }
        network = ->(link, found) { found << link.whereabouts.network }

        ALL = {
          # How the address is built.
          build: new(
            names: %i[structure fragment page],
            mark: ->(link, found) {
              found.push(link.structure.breaks.any?, link.structure.moved) unless link.structure.sound?
            }
          ),
          # The values of its roles, and what is wrong with each.
          values: new(
            names: %i[readings readings_of unsound as_written mended pair_of numbers_of number_of occurrences channel],
            mark: ->(link, found) { link.carried.placed.each { |one| found << one.reading.mark } },
            clean: ->(link, found) {
              link.carried.placed.each do |one|
                found << (one.reading.telling? ? one.reading : one.reading.role.name)
              end
            }
          ),
          # What it must carry.
          required: new(
            names: %i[missing_roles required? only_value],
            mark: ->(link, found) { found << link.demands.asked? << link.whereabouts.network },
            clean: ->(link, found) { found << link.demands.asked? << link.whereabouts.network }
          ),
          # Parameters that carry no role.
          names: new(
            names: %i[foreign misnamed],
            mark: ->(link, found) {
              link.carried.foreign.each_value { |one|
                found.push(
                  one.near,
                  one.bare&.name,
                  one.personal&.kind,
                  !one.token.nil?
                )
              }
            }
          ),
          # What stands beside the parameters: in the user part, the path and the fragment.
          parts: new(
            names: %i[personal_parts part_tokens path_carrier],
            mark: ->(link, found) {
              found.concat(link.strays.personal_parts.keys, link.strays.part_tokens.keys)
            }
          ),
          # Identifiers that it must carry.
          identifiers: new(
            names: %i[identifiers demanded_otherwise pairs_for],
            mark: ->(link, found) { found.concat(link.demands.identified) },
            clean: ->(link, found) { found.concat(link.demands.identified) }
          ),
          # Where it was found.
          place: new(
            names: %i[internal without campaign_names],
            mark: ->(link, found) { found << :internal if link.whereabouts.internal.any? }
          ),
          # What its place has lost since it was last read.
          lost: new(
            names: %i[lost robbed],
            mark: ->(link, found) { found << link.whereabouts.lost if link.whereabouts.lost.any? },
            clean: ->(link, found) { found << link.whereabouts.lost if link.whereabouts.lost.any? }
          ),
          network: new(names: %i[network], mark: network, clean: network),
          host: new(names: %i[host], mark: same.call(:host), clean: same.call(:host)),
          path: new(names: %i[path], mark: same.call(:path), clean: same.call(:path)),
          # The whole of it: nothing is remembered beyond the very address.
          address: new(
            names: %i[address seen],
            mark: ->(link, found) { found << link.seen.raw },
            clean: ->(link, found) { found << link.seen.raw }
          )
        }.freeze
      end
    end
  end
end
