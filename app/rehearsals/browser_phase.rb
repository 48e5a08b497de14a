# frozen_string_literal: true

# Opens landing pages and plays rehearsals in sealed Chromium, several tabs at once.
class BrowserPhase
  # @param sweep [Sweep]
  def initialize(sweep)
    @sweep = sweep
    @workspace = sweep.workspace
    @convention = sweep.convention_version.convention
    @signatures = @workspace.tag_signatures
  end

  # Returns when all is looked at, or the sweep is being stopped.
  def call
    work = rehearsals + pages
    return if work.empty?

    @browser = NetworkPolicy.new(@workspace).browser
    @look = Orvant::Looking.new(
      @browser,
      @convention,
      @signatures,
      @workspace.watched,
      fields: @workspace.expected_fields
    )
    Tabs.new(@sweep).work(work)
  ensure
    @browser&.quit
  end

  private

  # Rehearsals take longest, so they begin first.
  def rehearsals
    done = @sweep.rehearsal_runs.pluck(:rehearsal_script_id)
    @sweep.chosen_scripts.where.not(id: done).map do |script|
      PacedTasks::Task.new([Orvant::Address.new(script.rehearsal.landing.to_s).host], 1, -> { play(script) })
    end
  end

  def pages
    chosen = LandingPages.new(@sweep, @convention).chosen
    done = @sweep.page_visits.pluck(:page)
    Sweep.where(id: @sweep.id)
      .update_all([
        "total = looks + ?",
        @sweep.chosen_links.count + @sweep.chosen_scripts.count + chosen.size
      ])
    chosen.reject { |one| done.include?(one.page) }
      .map { |one| PacedTasks::Task.new([Orvant::Address.new(one.address).host], 1, -> { visit(one) }) }
  end

  # @param page [LandingPages::Chosen]
  # @return [Proc] what stores it
  def visit(page)
    visit, found = @look.call(page.address, page: page.page, others: page.others)
    lambda do
      store(found, {page: visit.page}, looked: !visit.reason, judge: ->(rules) { judged_by(rules, visit) }) do
        keep_visit(visit)
      end
    end
  end

  def keep_visit(visit)
    kept = PageVisit.create!(sweep: @sweep, workspace: @workspace, page: visit.page, visit: visit.to_h)
    pack(visit.har, kept.recording)
    Sender.meet(@workspace, visit.held)
  end

  def play(script)
    folder = RehearsalRun.pictures(@sweep.id, script.id)
    FileUtils.mkdir_p(folder)
    run = Orvant::Rehearsal::Runner.new(
      @browser,
      @convention,
      pictures: folder,
      signatures: @signatures,
      watching: @workspace.watched
    )
      .play(script.rehearsal)
    found = @look.judged_run(run)
    # Where a step could not be done, nothing was seen of what should have come after it.
    looked = run.failed_step ? ["journey/step"] : true
    -> { store(found, {rehearsal: script.name}, looked: looked) { keep_run(script, run) } }
  end

  def keep_run(script, run)
    RehearsalRun.create!(sweep: @sweep, rehearsal_script: script, run: run.to_h)
    pack(run.har, RehearsalRun.recording(@sweep.id, script.id))
    Sender.meet(@workspace, run.held.to_a)
  end

  # Recordings hold addresses as people do: what is personal is masked where they are handed out.
  def pack(har, file)
    return unless har

    FileUtils.mkdir_p(File.dirname(file))
    Zlib::GzipWriter.open(file) { |io| io.write(JSON.generate(har)) }
  end

  def settle(earlier, found, judge)
    marks = found.map { |one| [one.code, one.root, one.parameter] }
    by_rules = judge && ->(version, _) { judge.call(version.convention) }
    LookedAgain.new(@sweep).settle(earlier, marks, &by_rules)
  end

  # What was seen, by other rules; the settings are those of now.
  def judged_by(rules, visit)
    Orvant::Looking.new(nil, rules, @signatures, @workspace.watched, fields: @workspace.expected_fields)
      .judged(visit)
  end

  # @param looked [Boolean, Array<String>] whether all checks of the subject have looked again, or which
  # @param judge [#call, nil] rules => what the same look finds by them
  def store(found, subject, looked:, judge: nil)
    ActiveRecord::Base.transaction do
      yield
      earlier = @workspace.findings.last_word(@sweep).where(subject).where(over_all: false)
      earlier = earlier.where(code: looked) if looked.is_a?(Array)
      settle(earlier.to_a, found, judge) if looked
      Finding.keep(found, workspace_id: @workspace.id, sweep_id: @sweep.id, **subject)
      Sweep.where(id: @sweep.id)
        .update_all(["done = done + 1, findings_count = findings_count + ?", found.size])
    end
  end
end
