# frozen_string_literal: true

# Thins at night what sweeps have seen: what is older than the workspace keeps goes, but for what stands in a
# screen now. The last sweep over everything, each link's last trail, each page's and rehearsal's last look,
# what a standing finding rests on and what proved a fix stay. Passes of signposts stay as sums of their day.
class Thinning
  BATCH = 500
  # Stands in trails of which only the end is left.
  THINNED = "thinned"
  # Hours of the night, and after how many seconds it is done by day too.
  NIGHT = (1..5)
  OVERDUE = 48 * 3_600

  class << self
    # @return [void] once a night, over all workspaces
    def at_night
      since = Time.now - (File.exist?(mark) ? File.mtime(mark) : Time.at(0))
      due = NIGHT.cover?(Time.now.hour) ? OVERDUE / 3 : OVERDUE
      return if since < due

      FileUtils.touch(mark)
      Workspace.shown.find_each { |workspace| new(workspace).call }
      Tries.tidy
    end

    private

    def mark = Settings.var("thinned")
  end

  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
  end

  # @return [Hash{String => Integer}] how many trails, page visits, rehearsal runs and passes of signposts
  #   were thinned out
  def call
    {
      "trails" => empty(trails),
      "pages" => remove(pages),
      "rehearsals" => remove_runs(runs),
      "passes" => SignpostPass.fold(passes)
    }
  end

  # @return [Integer] bytes of its pictures and recordings
  def room
    @workspace.page_visits.ids.sum { |id| File.size?(PageVisit.recording(id)).to_i } +
      runs_of_all.pluck(:sweep_id, :rehearsal_script_id)
        .sum { |ids| size(RehearsalRun.pictures(*ids)) }
  end

  private

  def size(folder) = Dir[File.join(folder, "*")].sum { |file| File.size?(file).to_i }

  def before = Time.now.utc - @workspace.pace.to_h["keep_days"] * 86_400

  # Whatever a sweep has seen that still stands, or that proved something.
  def needed
    standing = @workspace.findings.current.distinct.pluck(:sweep_id)
    proofs = @workspace.findings.where.not(absent_in_id: nil).distinct.pluck(:absent_in_id)
    (standing + proofs + @workspace.sweeps.finished_whole.order(id: :desc).limit(2).ids).uniq
  end

  def old(rows) = rows.where("#{rows.table_name}.created_at < ?", before).where.not(sweep_id: needed)

  # What is compared between sweeps stays: outcome, status and where it ended.
  def trails
    all = LinkTrail.where(sweep_id: @workspace.sweeps.select(:id))
    old(all).where.not(id: all.group(:link_id, :visitor).select("MAX(link_trails.id)"))
      .where("look_key IS NULL OR look_key <> ?", THINNED)
  end

  def pages
    latest = @workspace.page_visits.group(:page).select("MAX(page_visits.id)")
    old(@workspace.page_visits).where.not(id: latest)
  end

  def runs_of_all = RehearsalRun.where(rehearsal_script_id: @workspace.rehearsal_scripts.select(:id))

  def runs
    old(runs_of_all).where.not(id: runs_of_all.group(:rehearsal_script_id).select("MAX(rehearsal_runs.id)"))
  end

  # Of these the day and their number stay.
  def passes
    SignpostPass.where(signpost_id: @workspace.signposts.select(:id)).where("at < ?", before.beginning_of_day)
  end

  def in_batches(rows) = rows.pluck(:id).each_slice(BATCH).sum { |ids| yield rows.klass.where(id: ids) }

  def empty(rows)
    in_batches(rows) do |some|
      some.update_all(hops: [], landing: nil, looked: nil, attempts: [], look_key: THINNED)
    end
  end

  def remove(rows)
    in_batches(rows) do |some|
      FileUtils.rm_f(some.ids.map { |id| PageVisit.recording(id) })
      some.delete_all
    end
  end

  def remove_runs(rows)
    in_batches(rows) do |some|
      FileUtils.rm_rf(some.pluck(:sweep_id, :rehearsal_script_id).map { |ids| RehearsalRun.pictures(*ids) })
      some.delete_all
    end
  end
end
