# frozen_string_literal: true

module Orvant
  # One thing a check found on one subject.
  #
  # code: the check's code, `param/case` · weight: `breaks`, `skews` or `untidy` · parameter: the carrier
  # concerned, or nil · place: where in the subject (`{"hop" => 2}`, `{"role" => "medium", "occurrence" =>
  # 0}`) · message: one plain sentence: what is wrong and what it does to the numbers · evidence: raw text as
  # seen, a list of lines · correction: the corrected value or nil · corrected_address: an address that passes
  # the whole family, or nil · root: what findings with one root share · remedy: Remedy, the work that removes
  # it · edits: the changes to the address that remove it, nil where they cannot be computed.
  Finding = Struct.new(:code,
    :weight,
    :parameter,
    :place,
    :message,
    :evidence,
    :correction,
    :corrected_address,
    :root, :remedy, :edits, keyword_init: true) do
    # @return [Hash{String => Object}] for JSON; root, remedy and edits are for grouping and correcting and
    #   stay inside
    def to_h
      members.reject { |name| %i[root remedy edits].include?(name) }.to_h { |name| [name.to_s, self[name]] }
    end
  end

  class Finding
    # The weights, the heaviest first.
    WEIGHTS = %w[breaks skews untidy].freeze
  end
end
