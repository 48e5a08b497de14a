# frozen_string_literal: true

require "digest"

module Orvant
  # Session rows, their channels and the causes of those that stand in the wrong one.
  module Traffic
    # What visits are told apart by, beside the day. landing: an address or a path · referrer: a host ·
    # device, country, language · host: of the page · visitor: new or returning · click: the name of the click
    # identifier that the visit carried.
    DIMENSIONS = %i[source medium campaign content term landing referrer device country language host visitor click].freeze
    # What is counted. revenue, cost: cents · pages: seen · engaged: sessions in which anything was done ·
    # events: that were sent.
    MEASURES = %i[sessions conversions revenue cost pages engaged events].freeze

    # One row of a report of sessions. date: Date · own: Hash of the workspace's own dimensions · line: in the
    # file. Absent text is "", an absent number 0.
    Row = Struct.new(:date, *MEASURES, *DIMENSIONS, :own, :line, keyword_init: true) do
      # @return [Hash{String => String}] what channel rules look at
      def visit = @visit ||= Traffic.visit(self)

      # @return [String] the event that its conversions are of, "" where that is not known
      def event = own.to_h["event"].to_s

      # @return [String] how far its visits went
      def reached = own.to_h["reached"].to_s

      # @param combination [Combination]
      # @param date [Date]
      # @param measures [Array<Integer>]
      # @return [Row]
      def self.of(combination, date, measures, line: nil)
        new(**combination.to_h, **MEASURES.zip(measures).to_h, date: date, line: line)
      end
    end

    # What rows have in common. own: Hash of the workspace's own dimensions.
    Combination = Struct.new(*DIMENSIONS, :own, keyword_init: true) do
      # @return [String] the same for the same values, and for no others
      def digest
        @digest ||= begin
          values = [*to_a.first(DIMENSIONS.size), *own.to_h.sort.flatten]
          Digest::SHA256.hexdigest(values.join("\u0000"))[0, Cut::DIGEST]
        end
      end

      # @return [Hash{String => String}] what channel rules look at
      def visit = @visit ||= Traffic.visit(self)
    end

    # What the sweeps know of one link, as far as traffic can show it.
    #
    # What was found on a link. code · role: that it concerns, or nil · root: of the fix that it belongs to.
    Known = Struct.new(:code, :role, :root, keyword_init: true)

    # id · address · kind · place · page: host and path where it lands · since: Date or nil · carried: Hash of
    # role to value, as the link carries them · found: Array<Known> · meant: Hash of role to value that the
    # link should carry, where one is known.
    LinkFact = Struct.new(
      :id,
      :address,
      :kind,
      :place,
      :page,
      :since,
      :carried,
      :found,
      :meant,
      keyword_init: true
    ) do
      # @param codes [Array<String>] in the order in which they count
      # @param role [String, nil] where only what concerns it counts, and what concerns no single one
      # @return [String, nil] the fix that one of these findings belongs to
      def root(*codes, role: nil)
        fitting = found.select do |one|
          codes.include?(one.code) && (role.nil? || one.role.nil? || one.role == role)
        end
        fitting.min_by { |one| [(one.role == role) ? 0 : 1, codes.index(one.code)] }&.root
      end
    end

    # What a forecast gives to visits that were never visits of their own, such as a way back from the payment
    # page.
    NO_VISIT = "part of another visit"
    # What a channel says of where its visits came from: nothing at all, or that they were no visits of their
    # own.
    MEANINGS = {
      Convention::ChannelRules::DIRECT => "unknown",
      Convention::ChannelRules::UNASSIGNED => "unknown",
      NO_VISIT => "no_visit"
    }.freeze

    NAMED = DIMENSIONS.to_h { |field| [field.to_s.freeze, field] }.freeze
    private_constant :NAMED

    # @param row [Row, Combination]
    # @return [Hash{String => String}] its dimensions
    def self.visit(row) = NAMED.transform_values { |field| row[field].to_s }

    # @param channel [String]
    # @return [String] `known`, `unknown` or `no_visit`
    def self.meaning(channel) = MEANINGS.fetch(channel, "known")
  end
end
