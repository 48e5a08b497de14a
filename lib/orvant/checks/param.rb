# frozen_string_literal: true

module Orvant
  module Checks
    # The family on the parameters of an address and its convention.
    module Param
      class << self
        # @param address [Address]
        # @param convention [Convention]
        # @param kind [String, nil] the kind of link (`ad`, `message`, …): some rules depend on it
        # @param sightings [Array<Inventory::Sighting>] where the link was found: a link on an own page is judged by other rules
        # @return [Array<Finding>] each with a corrected address where one is found that passes the whole family
        def judge(address, convention, kind: nil, sightings: [])
          return [] unless convention.applies_to?(address, kind: kind)

          subject = LinkSubject.new(address, convention, kind: kind, sightings: sightings)
          return Internal.new(subject).findings if subject.only_internal?

          found = checks.flat_map { |check| check.new(subject).findings }
          offer_corrected_address(found, subject)
        end

        # @param example [String] a query as in a check's example, or an address and behind a blank ` on ` the page where it stands
        # @return [Array<Finding>] judged by the sample convention that the documentation prints
        def sample(example)
          query, page = example.split(" on ")
          sightings = page ? [Inventory::Sighting.new(kind: "page", page: Address.parse(page))] : []
          judge(Address.parse("http://www.skerryline.example/day-pass?#{query}"), Sample.convention, kind: page ? "page" : "message", sightings: sightings)
        end

        private

        def checks = Check.family("param")

        def offer_corrected_address(found, subject)
          return found if found.none?(&:correction)

          corrected = Correction.apply(subject.address, found.select(&:correction))
          # What is wrong only where the link stands is no fault of the address.
          remaining = (checks - [Internal]).flat_map { |check| check.new(subject.with(corrected)).findings }
          found.each { |finding| finding.corrected_address = corrected.raw if finding.correction } if remaining.empty?
          found
        end
      end
    end
  end
end
