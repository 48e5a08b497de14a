# frozen_string_literal: true

module Orvant
  module Inventory
    # One place where a link was found. address: Address · kind: one of KINDS · place: where, in words · owner: who can change it ·
    # spend: cents or nil · since: Date from which it was out, or nil · replaces: the Address it stands in for, or nil · line: in the file.
    Sighting = Struct.new(:address, :kind, :place, :owner, :spend, :since, :replaces, :line, keyword_init: true) do
      # @return [Array<String>] what makes two sightings the same one
      def identity = [address.normal_form, kind, place]
    end

    class Sighting
      KINDS = %w[ad message page post print short-link other].freeze
    end
  end
end
