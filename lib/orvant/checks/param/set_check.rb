# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # The base of checks that look at many links at once.
      class SetCheck < Check
      end
    end
  end
end
