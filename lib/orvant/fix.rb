# frozen_string_literal: true

module Orvant
  # One piece of work that removes all findings with one root.
  #
  # root: what its findings share · codes · weight: the heaviest · action: what to do · value: exact text to
  # paste, or nil · at · place: where · owner: who can change it, or "" · findings: their ids.
  Fix = Struct.new(
    :root,
    :codes,
    :weight,
    :action,
    :value,
    :at,
    :place,
    :owner,
    :findings,
    keyword_init: true
  )

  class Fix
    # A finding with its id, the sightings of the link it is on (none on pages and rehearsals), and the page
    # it is on.
    Entry = Struct.new(:id, :finding, :sightings, :page, keyword_init: true)
    # What is known of a sighting here: kind, place, owner.
    Seen = Struct.new(:kind, :place, :owner, keyword_init: true)

    # @param finding [Finding] on rows or claims, behind which no link stands
    # @return [Fix] of it alone
    def self.of(finding)
      remedy = finding.remedy
      new(
        root: finding.root,
        codes: [finding.code],
        weight: finding.weight,
        action: remedy.action,
        value: remedy.value,
        at: remedy.at,
        place: remedy.place,
        owner: "",
        findings: []
      )
    end
  end
end
