# frozen_string_literal: true

module Orvant
  # Looks at a page in the sealed browser, once for each state of consent that the settings tell apart, and
  # judges what was seen. What pages and tags must do is judged on the visit after a yes, where people are
  # asked; in the others only what may leave there.
  class Looking
    # @param browser [Browser::Sealed]
    # @param convention [Convention]
    # @param signatures [Array<Signal::Signature>]
    # @param watching [Watching]
    # @param fields [Array<Hash>] attribution fields expected on pages
    def initialize(browser, convention, signatures, watching, fields: [])
      @browser = browser
      @convention = convention
      @signatures = signatures
      @watching = watching
      @fields = fields
      @names = signatures.to_h { |one| [one.tag, one.name] }
      @roles = signatures.to_h { |one| [one.tag, one.roles] }
    end

    # @param address [String]
    # @param page [String] as pages are told apart
    # @param others [Integer] how many more it stands for
    # @return [Array(Browser::PageVisit, Array<Finding>)] the visit that counts, with those of other states
    #   within it, and what was found
    def call(address, page: Address.new(address).page, others: 0)
      main, *beside = states
      visit, found = look(address, page, others, main)
      # On a busy day a page's scripts may take longer than it is watched.
      visit, found = look(address, page, others, main) if found.any? { |one| absent?(one) }
      return [visit, found] if visit.reason

      # A page that asks nobody is the same in every state.
      visits =
        if visit.state == main
          beside.map { |state| watch_beside(visit, state, more: state != beside.last) }.uniq(&:state)
        else
          []
        end
      if visits.any?
        visit.states = [visit, *visits].map { |one|
          {
            "state" => one.state,
            "reason" => one.reason,
            "signals" => one.signals.map(&:to_h)
          }
        }
      end
      [visit, found + visits.flat_map { |one| Checks::Tag.judge_beside(subject(one)) }]
    end

    # @param visit [Browser::PageVisit] opened here, or read from a recording
    # @return [Array<Finding>]
    def judged(visit)
      Checks::Tag.judge(subject(visit)) + Checks::Page.judge(Checks::Page::Subject.new(
        visit: visit,
        convention: @convention,
        fields: @fields
      ))
    end

    # @param run [Rehearsal::Run]
    # @return [Array<Finding>] on its steps and signals, and on the goal pages that it came to
    def judged_run(run)
      return Checks::Journey.judge(run) if run.failed_step

      Checks::Journey.judge(run) +
        Checks::Page::NoField.of_run(run) +
        Checks::Tag::NotCounted.of_run(run, @watching, @names) +
        goal_pages(run).flat_map { |visit| Checks::Tag.judge_load(subject(visit)) }
    end

    private

    def absent?(finding) = Check.codes_with(:absence).include?(finding.code)

    def goal_pages(run)
      return [] unless run.har

      Recording.new(run.har["log"]).visits(@signatures).select { |visit|
        visit.reason.nil? &&
          @watching.goals_of(visit.path).any?
      }.uniq(&:page)
    end

    # The state that counts stands first.
    def states = (@watching.states == ["untouched"]) ? [nil] : ["yes", *@watching.states - ["yes"]]

    def look(address, page, others, state)
      visit = watch(address, page, others, state)
      [visit, judged(visit)]
    end

    def watch(address, page, others, state)
      Browser::PageVisit.watch(
        @browser,
        address,
        @signatures,
        page: page,
        others: others,
        state: state,
        target: target(state),
        more: states.size > 1
      )
    end

    def watch_beside(visit, state, more:)
      Browser::PageVisit.beside(@browser, visit, state: state, target: target(state), more: more)
    end

    def target(state) = (@watching.target(state) if %w[yes no].include?(state))

    def subject(visit)
      Checks::Tag::Subject.new(
        visit: visit,
        watching: @watching,
        names: @names,
        roles: @roles,
        values: @convention.values_in(Address.new(visit.final_address))
      )
    end
  end
end
