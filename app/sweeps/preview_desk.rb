# frozen_string_literal: true

# Keeps the links of the workspace that was last worked on in memory, judged as they are, so that the effect
# of a change is shown at once.
class PreviewDesk
  SHOWN = 200
  MOVES = 10
  @lock = Mutex.new
  @warming = Concurrent::AtomicBoolean.new

  class << self
    # Reads the links beforehand, beside the request; one reading at a time serves all who ask.
    # @param workspace [Workspace]
    def warm(workspace)
      return unless @warming.make_true

      Thread.new do
        ActiveRecord::Base.connection_pool.with_connection { self.for(workspace) }
      ensure
        @warming.make_false
      end
    end

    # @param workspace [Workspace]
    # @param document [Hash] a convention that may have faults: they are an answer, not an error
    # @return [Hash{String => Object}]
    def answer(workspace, document)
      {"faults" => [], **self.for(workspace).document(Orvant::Convention.read(document))}
    rescue Orvant::Error::UnusableDocument => error
      {
        "faults" => error.message.lines.map(&:strip),
        "links" => 0,
        "reread" => 0,
        "changed" => 0,
        "shifts" => [],
        "codes" => [],
        "sample" => [],
        "traffic" => {"sessions" => 0, "moved" => 0, "moves" => []}
      }
    end

    # @param workspace [Workspace]
    # @return [PreviewDesk] with the links as they are now
    def for(workspace)
      @lock.synchronize do
        mark = mark_of(workspace)
        @desk = new(workspace, mark) unless @desk&.mark == mark
        @desk
      end
    end

    private

    def mark_of(workspace)
      [
        workspace.id,
        workspace.convention_version.version,
        workspace.links.swept.count,
        workspace.links.maximum(:updated_at),
        workspace.sightings.maximum(:updated_at)
      ]
    end
  end

  attr_reader :mark

  # @param workspace [Workspace]
  # @param mark [Array] what tells this state of the workspace from others
  def initialize(workspace, mark)
    @mark = mark
    @workspace = workspace
    @convention = workspace.convention
    @entries = LinkEntries.new(workspace).to_a
    @preview = Orvant::Checks::Param::Preview.new(@entries, workspace.convention)
  end

  # @param convention [Orvant::Convention] as it would be
  # @return [Hash{String => Object}] counts by the verdict before and after, and the first links
  def document(convention)
    changes = @preview.changes(convention)
    shifts = changes.map { |one| [one.before, one.after] }.tally
    {"links" => @entries.size,
     "reread" => reread(convention),
     "changed" => changes.size,
     "shifts" => shifts.map { |(before, after), count|
       {"before" => before, "after" => after, "links" => count}
     }
       .sort_by { |one| -one["links"] },
     "codes" => codes(changes), "sample" => sample(changes), "traffic" => traffic(convention)}
  end

  private

  # Ads whose click opens another address by the rules as they would be: they stand at another link then, and
  # are judged with the next sweep.
  def reread(convention)
    before, after = [@convention, convention].map do |one|
      [one.billed_hosts.names, one.dialects.map(&:to_document)]
    end
    (before == after) ? 0 : AdRereading.new(@workspace, convention).count
  end

  # How many sessions stand in another channel by the rules as they would be.
  def traffic(convention)
    now, then_ = [@convention, convention].map(&:channel_rules)
    fields = (now.fields | then_.fields).sort
    return {"sessions" => 0, "moved" => 0, "moves" => []} if fields.empty?

    sums = @workspace.combinations.group(*fields).sum(:sessions)
    moves = sums.group_by { |said, _|
      visit = fields.zip(Array(said)).to_h
      [now, then_].map { |rules| rules.classify(visit).channel }
    }.transform_values { |same| same.sum(&:last) }
    moved = moves.reject { |(before, after), _| before == after }
    {
      "sessions" => sums.values.sum,
      "moved" => moved.values.sum,
      "moves" => moved.sort_by { |_, count| -count }.first(MOVES)
        .map { |(before, after), count| {"before" => before, "after" => after, "sessions" => count} }
    }
  end

  def codes(changes)
    come, gone = changes.flat_map(&:come).tally, changes.flat_map(&:gone).tally
    (come.keys | gone.keys).sort.map do |code|
      {"code" => code, "come" => come.fetch(code, 0), "gone" => gone.fetch(code, 0)}
    end
  end

  # Of each kind of change some, so that a rare one is not buried.
  def sample(changes)
    addresses = @entries.to_h { |entry| [entry.id, entry.address.raw] } if changes.any?
    groups = changes.group_by { |one| [one.before, one.after] }.values
    groups.flat_map { |same| same.first([SHOWN / groups.size, 5].max) }.first(SHOWN)
      .map { |one|
        {
          "link_id" => one.id,
          "address" => addresses[one.id],
          "before" => one.before,
          "after" => one.after,
          "come" => one.come,
          "gone" => one.gone
        }
      }
  end
end
