# frozen_string_literal: true

module Orvant
  class Rehearsal
    # What happened in one run of a rehearsal.
    #
    # rehearsal: its name · steps: Array<Hash> (number, does, from and to in ms, page, error, picture) ·
    # signals: Array<Signal> · expectations: Array<Hash> · landing: values of the roles at the landing ·
    # refused: requests that were not made · held: Array<Browser::Held>, requests to nobody knows whom ·
    # trouble: why pages may not have worked for want of them, or nil · roles: Hash of tag to the roles that
    # its signals can say · handovers: Hash of tag to the parameters that hand its visitor on · har: all that
    # was asked for and answered (Browser::Log), nil where nobody wrote it down; it is kept apart.
    Run = Struct.new(
      :rehearsal,
      :steps,
      :signals,
      :expectations,
      :landing,
      :refused,
      :held,
      :trouble,
      :roles,
      :handovers,
      :har,
      keyword_init: true
    ) do
      # @return [Hash{String => Object}] for JSON
      def to_h
        (members - [:har]).to_h { |name| [name.to_s, self[name]] }
          .merge("signals" => signals.map(&:to_h), "held" => held.to_a.map(&:to_h))
      end

      # @param document [Hash] what `to_h` gave
      # @return [Run]
      def self.from_h(document)
        new(
          **document.transform_keys(&:to_sym),
          signals: document["signals"].map { |signal| Signal.from_h(signal) }
        )
      end

      # @return [Score]
      def score = @score ||= Score.new(self)

      # @param tag [String]
      # @return [Array<String>] roles that its signals can say; all, where nobody knows
      def roles_of(tag) = roles ? roles.fetch(tag, []) : self.class::ATTRIBUTION

      # @param tag [String]
      # @return [Array<String>] parameters that hand its visitor on to the next host
      def handover_of(tag) = handovers.to_h.fetch(tag, [])

      # @return [Hash, nil] the step that could not be done
      def failed_step = steps.find { |step| step["error"] }

      # @return [Array<Signal>] signals of an expectation's tag and event, in any step
      def heard(tag, event) = signals.select { |signal| signal.tag == tag && signal.event == event }
    end

    class Run
      # The roles that say where a visit came from.
      ATTRIBUTION = %w[source medium campaign].freeze
    end
  end
end
