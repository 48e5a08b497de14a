# frozen_string_literal: true

# Chooses the pages of a sweep that are opened in the browser: each own landing page once, with the parameters
# of one link, goal pages, and one page of each group that a crawl has read. Where a path has very many pages
# (its site's own parameters tell them apart), some stand for all.
class LandingPages
  # The most that are opened of one path.
  MOST_OF_PATH = 20
  # The most that are opened of pages on which nothing lands.
  MOST_SAMPLED = 40

  # page: as pages are told apart · others: how many more of its path it stands for.
  Chosen = Struct.new(:address, :page, :others, keyword_init: true)

  # @param sweep [Sweep]
  # @param convention [Orvant::Convention]
  def initialize(sweep, convention)
    @sweep = sweep
    @convention = convention
  end

  # @return [Array<Chosen>]
  def chosen
    return named unless @sweep.scope["pages"] == "landing"

    landed = own.group_by { |page, _| page[/\A[^?#]*/] }.values.flat_map { |same| some_of(same.sort) }
    landed += goals.reject { |goal| landed.any? { |one| one.page == goal.page } }
    (landed + sampled(landed)).sort_by(&:page)
  end

  private

  def named
    @sweep.scope["pages"].map do |address|
      Chosen.new(address: address, page: @convention.page_of(Orvant::Address.new(address)), others: 0)
    end
  end

  def own = @own ||= landed_on

  def landed_on
    landed = @sweep.link_trails.where(outcome: "landed").group(:landing_page).minimum(:final_address)
    landed.select { |_, address| @convention.own_hosts.cover?(Orvant::Address.new(address).host) }
  end

  # Goal pages that are named in full: what leaves when somebody only opens one counts as a conversion.
  def goals
    return [] unless @sweep.whole

    @sweep.workspace.watched.goals.map(&:page).reject { |page|
      page.end_with?("*") ||
        page.start_with?("/")
    }.uniq.filter_map do |page|
      address = Orvant::Address.new("#{scheme(page[%r{\A[^/]+}])}://#{page}")
      if @convention.own_hosts.cover?(address.host)
        Chosen.new(address: address.raw, page: @convention.page_of(address), others: 0)
      end
    end
  end

  # One of each group of pages that the crawl knows and nothing lands on: pages of a group are made alike.
  def sampled(chosen)
    return [] unless @sweep.whole

    groups = chosen.map { |one| SitePage.group_of(one.page) }
    crawled = @sweep.workspace.site_pages.crawled.order(:page).select(&:read?).group_by { |one|
      SitePage.group_of(one.page)
    }.except(*groups)
    crawled.first(MOST_SAMPLED).map { |_, pages| chosen_of(pages.first, pages.size - 1) }
  end

  def chosen_of(page, others)
    Chosen.new(
      address: page.document["address"],
      page: @convention.page_of(Orvant::Address.new(page.document["address"])),
      others: others
    )
  end

  # As its host's links land.
  def scheme(host) = (own.values.any? { |address| address.start_with?("http://#{host}/") }) ? "http" : "https"

  def some_of(same)
    others = [same.size - MOST_OF_PATH, 0].max
    same.first(MOST_OF_PATH).each_with_index.map do |(page, address), index|
      Chosen.new(address: address, page: page, others: index.zero? ? others : 0)
    end
  end
end
