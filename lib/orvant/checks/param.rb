# frozen_string_literal: true

module Orvant
  module Checks
    # The family on the parameters of an address and its convention.
    module Param
      class << self
        # @param address [Address]
        # @param convention [Convention]
        # @param kind [String, nil] the kind of link (`ad`, `message`, …): some rules depend on it
        # @return [Array<Finding>] each with a corrected address where one is found that passes the whole family
        def judge(address, convention, kind: nil)
          return [] unless convention.applies_to?(address, kind: kind)

          subject = LinkSubject.new(address, convention, kind: kind)
          found = Check.family("param").flat_map { |check| check.new(subject).findings }
          offer_corrected_address(found, subject)
        end

        # @param example [String] a query as in a check's example
        # @return [Array<Finding>] judged by the sample convention that the documentation prints
        def sample(example)
          judge(Address.parse("http://www.skerryline.example/day-pass?#{example}"), Sample.convention, kind: "message")
        end

        private

        def offer_corrected_address(found, subject)
          return found if found.none?(&:correction)

          corrected = Correction.apply(subject.address, found.select(&:correction))
          remaining = Check.family("param").flat_map { |check| check.new(subject.with(corrected)).findings }
          found.each { |finding| finding.corrected_address = corrected.raw if finding.correction } if remaining.empty?
          found
        end
      end
    end
  end
end
