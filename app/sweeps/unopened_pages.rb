# frozen_string_literal: true

# Own pages of which the crawl has read the markup and that the browser has not opened: what stands in them,
# and what does not.
class UnopenedPages
  # Of so many opened pages it is learned which tags a loader brings.
  LEARNED_FROM = 300

  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
    @watching = workspace.watched
  end

  # @return [Hash{String => Object}] read: how many pages the crawl has read · opened: how many the browser
  #   has · brought: tags that a loader brings, of which markup says nothing · pages: Array of page, title,
  #   tags and lacking: expected tags that do not stand in it
  def document
    crawled = @workspace.site_pages.crawled.order(:page).select(&:read?).uniq(&:path)
    unopened = crawled.reject { |one| opened.include?(one.path) }
    {
      "read" => crawled.size,
      "opened" => opened.size,
      "brought" => brought,
      "pages" => unopened.map { |one| row(one) }
    }
  end

  private

  def opened = @opened ||= @workspace.page_visits.distinct.pluck(:page).to_set { |page| page[/\A[^?#]*/] }

  def brought
    @brought ||= begin
      seen = @workspace.page_visits.order(id: :desc).limit(LEARNED_FROM).pluck(:visit)
      seen.flat_map { |visit|
        visit["signals"].to_a.map { |signal| signal["tag"] }.uniq - visit["tags"].to_a
      }.uniq.sort
    end
  end

  def row(one)
    tags = one.document["tags"].to_a
    {
      "page" => one.path,
      "title" => one.document["title"].to_s,
      "tags" => tags,
      "lacking" => @watching.expected(one.path).map(&:tag).uniq - tags - brought
    }
  end
end
