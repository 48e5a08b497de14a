# frozen_string_literal: true

# One page that a crawl or a look at others' pages has read.
class SitePage < ActiveRecord::Base
  belongs_to :workspace
  belongs_to :import

  # Pages of the own site as they were crawled last, that could be read.
  #
  # @return [ActiveRecord::Relation<SitePage>]
  scope :crawled,
    -> {
      where(import_id: Import.where(kind: "site", state: %w[done stopped])
        .group(:workspace_id, :source).select("MAX(id)"))
    }

  # @return [String] host and path
  def path = page[/\A[^?#]*/]

  # @return [Boolean] whether it is a page that visitors see
  def read? = document["status"] == 200 && document["reason"].nil?

  # @param page [String] as pages are told apart
  # @return [String] host and first part of the path: pages of one group are made alike
  def self.group_of(page) = page[%r{\A[^/]+/[^/?#]*}]
end
