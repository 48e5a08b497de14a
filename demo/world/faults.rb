# frozen_string_literal: true

require "fileutils"

class World
  # The planted faults that can be repaired, and which of them a person has repaired, or planted again. Kept
  # in a file, so that a restart keeps what was done.
  class Faults
    ALL = {
      "bare-host" => "skerryline.example sends visitors to www.skerryline.example without the query",
      "slash" => "/group-bookings goes to /group-bookings/ without the query",
      "language" => "/walks goes to /en/guided-walks without the query",
      "winter-loop" => "/timetable/winter and /timetable/winter/ send visitors to each other",
      "short-stale" => "the short link skl.example/w leads to a page that was taken down",
      "short-drops" => "the short link skl.example/poster does not hand parameters on",
      "short-parked" => "the short link skl.example/lantern leads to a name that a stranger has bought",
      "short-expired" => "the short link skl.example/fair says with status 200 that it has expired",
      "whale-home" => "/whale-watch leads to the home page",
      "voucher-once" => "/voucher answers its first visitor only",
      "quay-drops" => "the short link skl.example/quay does not hand parameters on",
      "gone-offer" => "/spring-offer was taken down although links still lead there",
      "soft-gone" => "/seal-safari says “not found” with status 200",
      "script-drops" => "the script of /harbour-tour sends visitors on without the query",
      "consent-drops" => "the cookie page before /museum forgets the query",
      "phone-drops" => "phones are sent from /ferry-app to /m/ferry-app without the query",
      "gift-tag" => "/gift-pass has no analytics tag",
      "design-tag" => "/gift-card has no analytics tag in its design of wood (?design=wood)",
      "lead-early" => "the enquiry for schools calls its conversion above the base code",
      "lead-again" => "the enquiry for clubs counts again when its thank-you page is reloaded",
      "lead-lost" => "the enquiry on the booking host has forgotten where the visit came from",
      "tag-late" => "shop /passes has its analytics tag below the head",
      "tag-order" => "shop /ten-trips calls the tag above its base code",
      "tag-blocked" => "shop /vouchers has a policy that blocks the tag's script",
      "tag-account" => "shop /parking counts for another account",
      "tag-twice" => "shop /bikes has the tag twice",
      "tag-stray" => "shop /dogs sends a sale when it is only opened",
      "tag-packed" => "shop /map sends what nobody can read",
      "tag-uneven" => "shop /summer-b lacks the ad network's tag that /summer-a has",
      "consent-early" => "shop /newsletter sends before anybody has agreed",
      "consent-no" => "shop /club-card sends after a no",
      "consent-held" => "shop /app sends nothing after a yes",
      "route-silent" => "shop /planner shows another page without telling the tag",
      "sale-cents" => "the family ticket's sale says cents for euros",
      "sale-currency" => "the bike ticket's sale says no currency",
      "sale-early" => "the group ticket's sale is sent when its form is opened",
      "sale-twice" => "the night ticket's sale is sent with every click on Pay",
      "sale-and-lead" => "the dog ticket sends a lead beside its sale",
      "button-covered" => "a notice covers the button of the senior ticket",
      "order-reused" => "gift tickets all have the same order number"
    }.freeze
    # Mended before the demo begins: its fix is proven already.
    MENDED = %w[quay-drops].freeze

    # @param path [String] of the JSON file
    def initialize(path)
      @path = path
      @lock = Mutex.new
    end

    # @param fault [String] one of ALL
    # @return [Boolean] whether it still stands
    def standing?(fault) = turned.include?(fault) == MENDED.include?(fault)

    # Repairs a fault, or plants it again.
    def toggle(fault)
      return unless ALL.key?(fault)

      @lock.synchronize do
        list = turned
        FileUtils.mkdir_p(File.dirname(@path))
        File.write(@path, JSON.generate(list.include?(fault) ? list - [fault] : list + [fault]))
      end
    end

    private

    def turned
      File.exist?(@path) ? JSON.parse(File.read(@path)) : []
    end
  end
end
