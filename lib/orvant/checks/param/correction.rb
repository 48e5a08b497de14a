# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Composes the corrections of several findings into one address; parameters that no finding concerns keep order and bytes.
      module Correction
        # @param address [Address]
        # @param findings [Array<Finding>] each with a correction; those on an existing pair name its place among the pairs
        # @return [Address]
        def self.apply(address, findings)
          present, absent = findings.partition { |finding| finding.place["pair"] }
          edits = present.to_h { |finding| [address.pairs[finding.place["pair"]], finding.correction] }
          address.with(edits: edits, added: absent.map { |finding| [finding.parameter, finding.correction] })
        end
      end
    end
  end
end
