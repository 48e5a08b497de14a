# frozen_string_literal: true

require "digest"

# Gives every combination of a workspace's traffic its channel and its causes, and days of it others where
# they differ.
class TrafficExplanation
  # Combinations that are read, and changed, at once.
  BATCH = 1_000
  # Days that are remembered as they are read: more than any workspace's rows are of.
  MOST_DAYS = 10_000
  # Grades that are shown and blame nobody: they are no cause.
  SHOWN = Orvant::Checks::Traffic::SuspectDirect::SHOWN

  # A combination as it is stored: what is known of it, and its values as a row.
  Stored = Struct.new(:id, :first_on, :last_on, :facts, :row)
  FACTS = Combination::TOLD.keys.freeze
  DIMENSIONS = Orvant::Traffic::DIMENSIONS

  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
    @version = workspace.convention_version
    @knowledge = TrafficKnowledge.new(workspace, @version.convention).call
    @explanations = {}
    @days = Orvant::Memory.new(MOST_DAYS)
    @roots = Set.new
  end

  # Explains what is new; all again only where the rules or what is known of links are others than last time.
  #
  # @yieldparam cause [Orvant::Finding] that no finding on a link explains, such as an own host as referrer,
  #   one of each root: it is a fix of its own, and is told before the rows that it is the cause of
  # @return [void]
  def explain(&tell)
    @tell = tell
    Database.remembering { explain_all }
  end

  private

  def explain_all
    Combination.renew(@workspace)
    known = Marshal.dump([@version.id, @knowledge.facts.map(&:to_a), @knowledge.told_apart])
    known = Digest::SHA256.hexdigest(known)
    @anew = known != @workspace.explained_by
    wanted = @anew ? @workspace.combinations : @workspace.combinations.where(told: false)
    ids = wanted.pluck(:id).sort
    @untold = @workspace.combinations.where(told: false).pluck(:id).to_set
    note_beginning if ids.any?
    ids.each_slice(BATCH) { |some| Combination.alone(@workspace) { explain_batch(stored(some)) } }
    regroup_days
    TrafficDay.renew(@workspace)
    CombinationMonth.renew(@workspace)
    Explanation.forget_unused(@workspace)
    @workspace.update_columns(explained_by: known)
  end

  # Whoever is cut off has changed combinations and not their days: what begins next begins with all days.
  def note_beginning
    mark_days(@workspace.traffic_rows) if @workspace.explained_by.empty?
    @workspace.update_columns(explained_by: "")
  end

  def mark_days(rows) = TrafficDay::Stale.mark(@workspace, rows.distinct.pluck(:date))

  # Read as the database gives it, since casting value by value takes longer than to read.
  def stored(ids)
    columns = Database.among(Combination, ids).select(:id, :first_on, :last_on, *DIMENSIONS, *FACTS)
    Combination.connection.select_rows(columns.to_sql).map do |id, first, last, *values|
      facts = values.pop(FACTS.size)
      row = Orvant::Traffic::Row.new
      DIMENSIONS.zip(values) { |name, value| row[name] = value }
      Stored.new(id, day(first), day(last), facts, row)
    end
  end

  def day(said) = said && @days.fetch(said) { said.to_date }

  # Between two batches others may explain, and forget what they do not use.
  def explain_batch(combinations)
    @known = @workspace.explanations.pluck(:digest, :id).to_h
    told = combinations.each_with_object({}.compare_by_identity) { |one, all| all[one] = facts_of(one) }
    changed = told.select { |one, (facts, _)| facts != one.facts }
    days = told.select { |_, (_, days)| days.any? }
    note_moves(told)
    ActiveRecord::Base.transaction do
      Combination.tell(changed.to_h { |one, (facts, _)| [one.id, facts] })
      if overridden?
        Database.among(@workspace.traffic_rows, combinations.map(&:id), :combination_id)
          .where.not(explanation_id: nil).update_all(explanation_id: nil)
      end
      override(days)
      note_told(combinations.map(&:id).select { |id| @untold.include?(id) })
      mark(changed.keys + days.keys)
    end
  end

  # What has got other rows meanwhile is stale, and is told of anew.
  def note_told(ids)
    Database.among(Combination, ids).where(stale: Combination::FRESH, told: false).update_all(told: true)
  end

  # Links to one page came out on the same days: combinations that they are behind change together.
  def override(days)
    @overridden = true if days.any?
    by_range = days.flat_map { |one, (_, some)|
      some.map { |range, id| [[range, id], one.id] }
    }.group_by(&:first)
    by_range.each do |(range, id), same|
      Database.among(@workspace.traffic_rows, same.map(&:last), :combination_id).where(date: range)
        .update_all(explanation_id: id)
    end
  end

  # Days of their own are rare: nothing is taken back where there are none.
  def overridden?
    if @overridden.nil?
      @overridden = @workspace.traffic_rows.where.not(explanation_id: nil).exists?
    else
      @overridden
    end
  end

  # Where whole channels and explanations have become others, so do the sums of their days. Else all days
  # between the first and the last on which something changed are summed anew: which of them it touched would
  # cost more to find out.
  def regroup_days
    return if @touched.to_a.empty?
    return TrafficDay.move(@workspace, @moves.transform_values(&:first)) if whole?

    mark_days(@workspace.traffic_rows.where(date: @touched.map(&:first).min..@touched.map(&:last).max))
  end

  # Whether every combination has been looked at, none has days of its own, and those of one channel and
  # explanation have stayed together.
  def whole? = @anew && !overridden? && @moves.values.all? { |places| places.size == 1 }

  # Where a combination stands, by its columns.
  def standing(facts) = facts.values_at(0, 3)

  def note_moves(told)
    @moves ||= Hash.new { |moves, from| moves[from] = Set.new }
    told.each { |one, (facts, _)| @moves[standing(one.facts)] << standing(facts) }
  end

  def mark(combinations)
    return if combinations.empty?

    (@touched ||= []).concat(combinations.select(&:last_on).map { |one| [one.first_on, one.last_on] }.uniq)
  end

  # @return [Array(Hash, Hash)] columns of the combination, and explanations of days that differ
  def facts_of(one)
    return [["", "", nil, nil], NONE] unless one.last_on

    answer, causes = told_on(one, one.last_on)
    id = explanation(causes)
    [[answer.channel, said_of(answer), answer.nearest, id], days_of(one, causes, id)]
  end

  NONE = {}.freeze
  private_constant :NONE

  def told_on(one, day)
    one.row.date = day
    Orvant::Checks::Traffic.explain(one.row, @knowledge)
  end

  def said_of(answer)
    (@said ||= {}.compare_by_identity)[answer] ||=
      if answer.rule
        "rule #{answer.rule}: #{answer.because}"
      else
        answer.because
      end
  end

  # What was said of the last day holds from the day on which the last of its links was out; before it, what
  # was known then.
  def days_of(one, causes, last)
    return NONE if one.first_on == one.last_on || (causes.empty? && !direct?(one))

    starts = [one.first_on, *starts(one, causes)].uniq.sort
    ranges = starts.each_cons(2).map { |from, to| from..(to - 1) } + bursts(one).map { |day| day..day }
    ranges.to_h { |range| [range, explanation(told_on(one, range.first).last, empty: true)] }
      .reject { |_, id| id == last }
  end

  # Where there is nothing to say on the last day there is nothing on those before: links come, and do not go.
  def starts(one, causes)
    ids = causes.flat_map { |cause| cause.place["links"] }
    @knowledge.since(ids).select { |day| day > one.first_on && day <= one.last_on }
  end

  def direct?(one) = one.row.source.empty? && one.row.medium.empty? && one.row.referrer.empty?

  def bursts(one)
    return [] unless direct?(one)

    @knowledge.burst_days(@knowledge.page(one.row.landing))
      .select { |day| day.between?(one.first_on, one.last_on) }
  end

  def explanation(causes, empty: false)
    return if causes.empty? && !empty

    causes.each { |cause| @tell&.call(cause) if cause.remedy && cause.root && @roots.add?(cause.root) }
    main = causes.first
    main = nil if main && SHOWN.include?(main.place["grade"])
    said = {cause: main ? main.place["cause"] : "",
            rightful_channel: main&.place&.fetch("becomes"),
            roots: main ? main.place["roots"] : [],
            causes: causes.map { |cause|
              {
                "code" => cause.code,
                "message" => cause.message,
                "links" => cause.place["links"],
                **cause.place.slice("grade", "likelihood")
              }
            }}
    @explanations[said] ||= Explanation.id_of(@workspace, said, @known)
  end
end
