# frozen_string_literal: true

module Orvant
  module Checks
    # The family on the tags of one page.
    module Tag
      # What the family judges: a visit to a page, and what it must do.
      #
      # visit: Browser::PageVisit · watching: Watching · names: Hash of tag to its readable name · roles: Hash
      # of tag to the roles that its signals name · values: Hash of role to the value in the page's address.
      Subject = Struct.new(:visit, :watching, :names, :roles, :values, keyword_init: true) do
        def name(tag) = names.fetch(tag, tag)

        # @return [Array<Watching::Expected>] tags that must be here
        def expected = @expected ||= watching.expected(visit.path)

        def in_markup?(tag)
          visit.tags.include?(tag) || visit.installations.to_a.any? { |one| one.tag == tag }
        end

        def signals(tag) = visit.signals.select { |signal| signal.tag == tag }

        # @return [Boolean] whether it has sent a page view before a choice was made already: that it need not
        #   do again
        def viewed_before?(tag) = visit.earlier.to_a.any? { |signal| signal.tag == tag && signal.page_view? }

        # @return [Boolean] whether something was sent to the tag that could not be read, so that nothing can
        #   be said to be absent
        def unreadable?(tag) = signals(tag).any?(&:unreadable?)

        # @return [Array<String>] every tag that was seen or heard here
        def tags = (visit.tags + visit.installations.to_a.map(&:tag) + visit.signals.map(&:tag)).uniq

        # @return [Boolean] whether the tag must wait in the state of consent in which the page was seen
        def waits?(tag)
          consent = watching.consents[tag] or return false
          {"untouched" => !consent.untouched, "no" => !consent.no}.fetch(visit.state.to_s, false)
        end

        # @return [Array<String>] lines of evidence: the page, how long it was watched, what left
        def lines(signals = visit.signals)
          ["#{visit.final_address} watched for #{(visit.watched / 1000.0).round(1)} s#{", #{self.class::STATES.fetch(visit.state)}" if visit.state}"] + signals.map { |signal| "#{signal.event}  #{signal.request}" }
        end
      end

      class Subject
        # How the states of consent are said.
        STATES = {
          "untouched" => "before anything was chosen",
          "yes" => "after a yes",
          "no" => "after a no"
        }.freeze
      end

      class << self
        # @param subject [Subject]
        # @return [Array<Finding>] none for a page that could not be opened: nothing was seen there, good or
        #   bad
        def judge(subject)
          return [] if subject.visit.reason

          Check.family("tag").select { |check| check < TagCheck }
            .flat_map { |check| check.new(subject).findings }
        end

        # A page that a rehearsal came to: what its signals mean is judged at its steps.
        #
        # @param subject [Subject]
        # @return [Array<Finding>]
        def judge_load(subject)
          TagCheck.at(:goal_pages).flat_map { |check| check.new(subject).findings }
        end

        # A page in a state of consent beside the one that counts.
        #
        # @param subject [Subject]
        # @return [Array<Finding>]
        def judge_beside(subject)
          return [] if subject.visit.reason

          TagCheck.at(:other_states).flat_map { |check| check.new(subject).findings }
        end

        # What shows over many pages and rehearsals only.
        #
        # @param visits [Array<Browser::PageVisit>] the last of each page
        # @param runs [Array<Array<Signal>>] signals of each rehearsal
        # @param watching [Watching]
        # @param names [Hash{String => String}] of tags
        # @return [Array<Finding>]
        def judge_all(visits, runs, watching, names)
          Uneven.over(visits, watching, names) + CountedUnseen.over(
            visits.flat_map(&:signals) + runs.flatten,
            watching,
            names
          )
        end

        # @param example [Hash] of a page where the tag `gullwatch` with the account `SK-204` is expected:
        #   `markup`: HTML, or tags that stand in it · `signals`: events, or arrays of event and facts ·
        #   `address` · `watching`: what differs of what pages must do · `state` · `errors`
        # @return [Array<Finding>]
        def sample(example) = Sample.judge(example)
      end
    end
  end
end
