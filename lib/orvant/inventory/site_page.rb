# frozen_string_literal: true

module Orvant
  module Inventory
    # One page that a crawl has read. address: Address as requested · status · title · canonical (absolute, or
    # nil) · noindex · nofollow: whether the page asks not to follow its links · referrer_policy: of header or
    # meta, or nil · depth: links from the start · links: how many on it · forms: Array<Hash> (action, fields,
    # hidden) · scripts: `src` of its scripts, absolute · tags: those that stand in its markup · reason: where
    # it could not be read.
    SitePage = Struct.new(
      :address,
      :status,
      :title,
      :canonical,
      :noindex,
      :nofollow,
      :referrer_policy,
      :depth,
      :links,
      :forms,
      :scripts,
      :tags,
      :reason,
      keyword_init: true
    ) do
      # @return [Hash{String => Object}] for JSON
      def to_h = members.to_h { |name| [name.to_s, self[name]] }.merge("address" => address.raw)
    end
  end
end
