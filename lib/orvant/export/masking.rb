# frozen_string_literal: true

module Orvant
  module Export
    # Hides personal data in whatever is shown or handed out.
    module Masking
      SAID = %w[before after value].freeze
      # Colleagues who answer for something are named by whatever they are known by.
      COLLEAGUES = %w[owner author decided_by].freeze
      # What was masked before it was taken apart, and is not looked at again.
      Masked = Class.new(Array)

      class << self
        # @param document [Object] as JSON has it
        # @param personal [PersonalData] as the convention says
        # @return [Object] the same with mail addresses, telephone numbers, names and passwords replaced by
        #   dots
        def masked(document, personal = PersonalData.usual)
          case document
          when String then personal.mask(document)
          when Masked then document
          when Array then document.map { |one| masked(one, personal) }
          when Hash
            document["name"].is_a?(String) ? parameter(document, personal) : members(document, personal)
          else document
          end
        end

        private

        def members(document, personal)
          document.to_h { |key, one| [key, COLLEAGUES.include?(key) ? one : masked(one, personal)] }
        end

        # The value of a parameter is judged by the parameter's name.
        def parameter(document, personal)
          document.to_h do |key, one|
            hidden = one.is_a?(String) && SAID.include?(key) && personal.find(one, field: document["name"])
            [key, hidden ? PersonalData::MASK : masked(one, personal)]
          end
        end
      end
    end
  end
end
