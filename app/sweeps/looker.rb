# frozen_string_literal: true

# Looks at trails in a browser: at a glance in tabs that are used again, or in a visit of its own.
class Looker
  # @param workspace [Workspace]
  # @param slow_ms [Integer] what seems slower is followed once more
  def initialize(workspace, slow_ms)
    @workspace = workspace
    @slow_ms = slow_ms
    @tabs = Concurrent::Map.new
    @starting = Mutex.new
  end

  # @param text [String] an address as found
  # @param visitor [String] the name of one
  # @return [Orvant::Trail, nil] nil where it failed
  def glance(text, visitor)
    @tabs.compute_if_absent([Tabs.number, visitor]) {
      Orvant::Browser::UsedTab.new(browser, Orvant::Net::Visitor.of(visitor))
    }.follow(text)
  end

  # What seems slow beside other tabs is followed once more.
  #
  # @param text [String] an address as found
  # @param visitor [String] the name of one
  # @return [Orvant::Trail]
  def follow(text, visitor)
    visitor = Orvant::Net::Visitor.of(visitor)
    trail = trail(text, visitor: visitor)
    return trail unless trail.slow?(@slow_ms)

    again = trail(text, visitor: visitor)
    (again.outcome == trail.outcome && again.ms < trail.ms) ? again : trail
  end

  # @param text [String] an address
  # @param visitor [Orvant::Net::Visitor]
  # @return [Orvant::Trail]
  def trail(text, visitor: Orvant::Net::Visitor::DESKTOP)
    Orvant::Browser::TrailVisit.follow(browser, text, visitor: visitor)
  end

  # Ends the browser first, so that nobody waits for each of its tabs.
  def close
    @browser&.quit
    @tabs.each_value(&:close)
  end

  private

  def browser = @browser || @starting.synchronize { @browser ||= NetworkPolicy.new(@workspace).browser }
end
