# frozen_string_literal: true

require "timeout"

module Orvant
  module Browser
    # Looks at many addresses in one tab, which costs a tenth of a visit of its own: cookies and what pages
    # stored are forgotten in between. What it sees is a glance: it counts where it confirms what is known
    # already, and whoever wants to know more pays for a visit.
    class UsedTab
      # So many addresses are looked at in one tab before it is exchanged.
      MOST = 40
      # Seconds after which a glance is given up.
      LONGEST = 30
      # What the driver has the browser tell of a page, and no trail is told by.
      UNHEARD = {
        "CSS.disable" => {},
        "DOM.disable" => {},
        "Log.disable" => {},
        "Page.setLifecycleEventsEnabled" => {enabled: false}
      }.freeze

      # @param browser [Sealed]
      # @param visitor [Net::Visitor]
      def initialize(browser, visitor)
        @browser = browser
        @visitor = visitor
        @uses = 0
      end

      # @param text [String] an address as found
      # @return [Trail, nil] nil where the tab failed
      def follow(text)
        @session ||= start
        trail, origins = Timeout.timeout(LONGEST) { TrailVisit.within(@session.visit, text, @visitor) }
        plain?(trail) ? @browser.forget(@session, origins) : close
        trail
      rescue Error, Ferrum::Error, Timeout::Error
        close
        nil
      end

      # Ends the tab; the next look begins another.
      def close
        session = @session
        @session = nil
        @uses = 0
        @browser.close(session) if session
      end

      private

      def start
        @browser.start(@visitor).tap do |session|
          UNHEARD.each { |command, given| session.page.command(command, **given) }
        end
      end

      # Whatever else has happened on a tab may live on in it.
      def plain?(trail)
        trail.landed? && trail.attempts.empty? && trail.seen.ended == "still" && (@uses += 1) < MOST
      end
    end
  end
end
