# frozen_string_literal: true

require "fileutils"

class World
  # The planted faults that can be repaired, and which of them are. Kept in a file, so that a restart keeps a person's repairs.
  class Faults
    ALL = {
      "bare-host" => "skerryline.example sends visitors to www.skerryline.example without the query",
      "slash" => "/group-bookings goes to /group-bookings/ without the query",
      "language" => "/walks goes to /en/guided-walks without the query",
      "winter-loop" => "/timetable/winter and /timetable/winter/ send visitors to each other",
      "short-stale" => "the short link skl.example/w leads to a page that was taken down",
      "short-drops" => "the short link skl.example/poster does not hand parameters on",
      "gone-offer" => "/spring-offer was taken down although links still lead there",
      "soft-gone" => "/seal-safari says “not found” with status 200",
      "script-drops" => "the script of /harbour-tour sends visitors on without the query",
      "consent-drops" => "the cookie page before /museum forgets the query",
      "phone-drops" => "phones are sent from /ferry-app to /m/ferry-app without the query",
      "gift-tag" => "/gift-pass has no analytics tag",
      "design-tag" => "/gift-card has no analytics tag in its design of wood (?design=wood)",
      "lead-early" => "the enquiry for schools calls its conversion above the base code",
      "lead-again" => "the enquiry for clubs counts again when its thank-you page is reloaded",
      "lead-lost" => "the enquiry on the booking host has forgotten where the visit came from"
    }.freeze

    # @param path [String] of the JSON file
    def initialize(path)
      @path = path
      @lock = Mutex.new
    end

    # @param fault [String] one of ALL
    # @return [Boolean] whether it still stands
    def standing?(fault) = !repaired.include?(fault)

    # Repairs a fault, or plants it again.
    def toggle(fault)
      return unless ALL.key?(fault)

      @lock.synchronize do
        list = repaired
        FileUtils.mkdir_p(File.dirname(@path))
        File.write(@path, JSON.generate(list.include?(fault) ? list - [fault] : list + [fault]))
      end
    end

    private

    def repaired
      File.exist?(@path) ? JSON.parse(File.read(@path)) : []
    end
  end
end
