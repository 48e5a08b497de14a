# frozen_string_literal: true

# Follows single addresses outside a sweep, as a sweep would: by HTTP, and in a browser where only that can
# tell what their pages do.
class FollowOnce
  # @param workspace [Workspace]
  # @yieldparam [FollowOnce] its browser, where it needed one, is ended after the block
  def self.for(workspace)
    one = new(workspace)
    yield one
  ensure
    one&.close
  end

  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
    @policy = NetworkPolicy.new(workspace)
    @follower = Orvant::Trail::Follower.new(@policy.door)
  end

  # @param address [Orvant::Address]
  # @return [Orvant::Trail]
  def call(address)
    trail = nil
    visitor = @workspace.visitor
    @follower.follow_all([address.raw].method(:shift), visitors: [visitor]) { |_, (read)| trail = read }
    if trail.unseen.to_a.any?
      trail = Orvant::Browser::TrailVisit.follow(browser, address.raw, visitor: visitor)
    end
    Orvant::Trail::Landing.judge(trail)
  end

  # Ends the browser.
  def close = @browser&.quit

  private

  def browser = @browser ||= @policy.browser
end
