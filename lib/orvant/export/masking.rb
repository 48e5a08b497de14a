# frozen_string_literal: true

module Orvant
  module Export
    # Hides personal data in whatever is shown or handed out.
    module Masking
      SAID = %w[before after value].freeze
      # Colleagues who answer for something are named by whatever they are known by.
      COLLEAGUES = %w[owner author].freeze

      module_function

      # @param document [Object] as JSON has it
      # @return [Object] the same with mail addresses, telephone numbers and names replaced by dots
      def masked(document)
        case document
        when String then PersonalData.mask(document)
        when Array then document.map { |one| masked(one) }
        when Hash then if document["name"].is_a?(String)
                         parameter(document)
                       else
                         document.to_h { |key, one| [key, COLLEAGUES.include?(key) ? one : masked(one)] }
                       end
        else document
        end
      end

      # The value of a parameter is judged by the parameter's name.
      def parameter(document)
        document.to_h do |key, one|
          hidden = one.is_a?(String) && SAID.include?(key) && PersonalData.usual.find(one, field: document["name"])
          [key, hidden ? PersonalData::MASK : masked(one)]
        end
      end
    end
  end
end
