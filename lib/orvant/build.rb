# frozen_string_literal: true

module Orvant
  # New links, made from what a person fills in: a landing address and a value for each role. The question
  # mark, the ampersand, the fragment and the encoding are made here, never typed.
  module Build
    # One row as it is filled in. landing: text · kind: of link · values: Hash of role to text · network:
    # whose ad it is, or nil · exception: why it leaves although it is rejected, "" where it does not.
    Row = Struct.new(:landing, :kind, :values, :network, :exception, keyword_init: true)

    # What is known of a landing address that was followed. lost: names of parameters that it loses · offer:
    # an address that keeps them, or nil.
    Landing = Struct.new(:lost, :offer, keyword_init: true)

    class << self
      # @param document [Hash] a row as JSON has it
      # @return [Row]
      def row(document)
        values =
          if document["values"].is_a?(Hash)
            document["values"].to_h { |role, text| [role.to_s, text.to_s.strip[0, Cut::TYPED]] }
          else
            {}
          end
        Row.new(landing: document["landing"].to_s.strip,
          kind: document["kind"].to_s,
          values: values.reject { |_, text| text.empty? },
          network: document["network"].to_s.then { |name| name.empty? ? nil : name },
          exception: document["exception"].to_s.strip[0, Cut::CELL])
      end

      # @param row [Row]
      # @param convention [Convention]
      # @param landings [Hash{String => Landing}] by normal form, those that were followed
      # @return [Finished]
      def finish(row, convention, landings: {}) = Finished.new(row, convention, landings)
    end
  end
end
