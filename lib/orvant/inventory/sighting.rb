# frozen_string_literal: true

module Orvant
  module Inventory
    # One place where a link was found.
    #
    # address: Address · kind: one of KINDS · place: where, in words · owner: who can change it · spend: cents
    # or nil · since: Date from which it was out, or nil · replaces: the Address it stands in for, or nil ·
    # line: in the file. Of ads: status (`""` or `paused`) · clicks and conversions as the network claims them
    # · key: what the network knows the ad by · declared: Address of the landing page the ad names · click:
    # ClickAddress#to_h, the click address by level · samples: of Samples, what stands in the address only as
    # an example. Of messages and pages: text of the link · part: where in
    # it · page: Address of the page. Of registers: target: Address the register names. facts: whatever else
    # the source says, Hash of strings.
    Sighting = Struct.new(:address,
      :kind,
      :place,
      :owner,
      :spend,
      :since,
      :replaces,
      :line,
      :status,
      :clicks,
      :conversions,
      :key,
      :declared,
      :click,
      :samples,
      :text, :part, :page, :target, :facts, keyword_init: true) do
      # @return [Array<String>] what makes two sightings the same one
      def identity = [address.normal_form, kind, place, part].compact
    end

    class Sighting
      KINDS = %w[ad message page post print short-link other].freeze
    end
  end
end
