# frozen_string_literal: true

# Hands out, one by one, the links of a sweep that have no trail in it yet, without holding more than a batch.
class LinkFeed
  BATCH = 500

  # @param sweep [Sweep]
  def initialize(sweep)
    @links = sweep.chosen_links.where.not(id: sweep.link_trails.select(:link_id)).order(:id)
    @last = 0
    @batch = []
  end

  # @return [Link, nil] nil at the end
  def next
    @batch = LinkEntries.provide(@links.where("links.id > ?", @last).limit(BATCH).to_a) if @batch.empty?
    @batch.shift.tap { |link| @last = link.id if link }
  end
end
