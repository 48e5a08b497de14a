# frozen_string_literal: true

# Opens landing pages and plays rehearsals in sealed Chromium, several tabs at once.
class BrowserPhase
  ABSENT = %w[tag/missing tag/silent page/no-field].freeze

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

    @browser = @workspace.browser
    Tabs.new(@sweep).work(work)
  ensure
    @browser&.quit
  end

  private

  # Rehearsals take longest, so they begin first.
  def rehearsals
    done = @sweep.rehearsal_runs.pluck(:rehearsal_script_id)
    @sweep.chosen_scripts.where.not(id: done).map { |script| -> { play(script) } }
  end

  def pages
    addresses = LandingPages.new(@sweep, @convention).addresses
    done = @sweep.page_visits.pluck(:page)
    Sweep.where(id: @sweep.id).update_all(total: @sweep.chosen_links.count + @sweep.chosen_scripts.count + addresses.size)
    addresses.reject { |address| done.include?(Orvant::Address.new(address).page) }.map { |address| -> { visit(address) } }
  end

  # What was absent is looked for twice: on a busy day a page's scripts may take longer than it is watched.
  #
  # @return [Proc] what stores it
  def visit(address)
    visit, found = look(address)
    visit, found = look(address) if found.any? { |one| ABSENT.include?(one.code) }
    -> { store(found, page: visit.page) { PageVisit.create!(sweep: @sweep, workspace: @workspace, page: visit.page, visit: visit.to_h) } }
  end

  # @return [Array] the visit and what was found on it
  def look(address)
    visit = Orvant::Browser::PageVisit.watch(@browser, address, @signatures)
    tags = Orvant::Checks::Tag::Subject.new(visit: visit, expected: @workspace.expected_tags, names: @signatures.to_h { |one| [one.tag, one.name] })
    page = Orvant::Checks::Page::Subject.new(visit: visit, convention: @convention, fields: @workspace.expected_fields)
    [visit, Orvant::Checks::Tag.judge(tags) + Orvant::Checks::Page.judge(page)]
  end

  def play(script)
    folder = RehearsalRun.pictures(@sweep.id, script.id)
    FileUtils.mkdir_p(folder)
    run = Orvant::Rehearsal::Runner.new(@browser, @convention, pictures: folder).play(script.rehearsal)
    found = Orvant::Checks::Journey.judge(run)
    -> { store(found, rehearsal: script.name) { RehearsalRun.create!(sweep: @sweep, rehearsal_script: script, run: run.to_h) } }
  end

  def store(found, subject)
    ActiveRecord::Base.transaction do
      yield
      @workspace.findings.current.where(subject).update_all(current: false)
      Finding.insert_all(found.map { |one| Finding.row(one, workspace_id: @workspace.id, sweep_id: @sweep.id, **subject) }) if found.any?
      Sweep.where(id: @sweep.id).update_all(["done = done + 1, findings_count = findings_count + ?", found.size])
    end
  end
end
