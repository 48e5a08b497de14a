# frozen_string_literal: true

# What visits are told apart by in a table: a column of theirs, their channel or cause, a stretch of days, a
# segment of a structured name (`campaign.year`), a value under which all its spellings stand
# (`meant.campaign`), or a dimension of the workspace's own (`own.event`).
class TrafficDimension
  # How the days of a stretch are written alike.
  TIMES = {"month" => "%Y-%m", "week" => "%G-W%V", "day" => "%Y-%m-%d"}.freeze
  USUAL = [*Combination::FIELDS, "channel", "cause", *TIMES.keys].freeze
  DAY = "traffic_rows.date"
  CAUSE = "explanations.cause"
  OWN = "own."
  MEANT = "meant"
  # All of a workspace's own dimensions together, as text that both databases can group by, and that does not
  # pass for the column itself.
  OWN_TEXT = "(CAST(combinations.own AS TEXT) || '')"
  # Values of own dimensions that are looked through.
  MOST_OWN = 20_000

  class << self
    # @param workspace [Workspace]
    # @return [Hash{String => Array<String>}] what the visits of a workspace hold, by the names of its own
    #   dimensions
    def own(workspace)
      texts = workspace.combinations.where("tells_own").distinct.limit(MOST_OWN).pluck(Arel.sql(OWN_TEXT))
      texts.map { |text| JSON.parse(text) }
        .each_with_object({}) { |said, known| said.each { |name, value| (known[name] ||= {})[value] = true } }
        .transform_values(&:keys)
    end

    # @param said [String, nil] what own dimensions are to hold, one a line, as `market=north`; a dash stands
    #   for nothing at all, a name alone for anything
    # @return [ActiveRecord::Relation<Combination>] those that hold all of it
    def of_own(said)
      all_of(said) do |one|
        name, equals, value = one.partition("=")
        next Combination.where(holds("#{JSON.generate(name)}:")) if equals.empty?
        next Combination.where.not(holds("#{JSON.generate(name)}:")) if value == TrafficFilters::NOTHING

        Combination.where(written(name => value).map { |pair| holds(pair) }.join(" OR "))
      end
    end

    # @param workspace [Workspace]
    # @param said [String, nil] what segments are to hold, one a line, as `campaign.year=2026`, or which value
    #   is meant, as `meant.campaign=walks-2026`; a dash stands for nothing
    # @return [ActiveRecord::Relation<Combination>] those that hold all of it
    # @raise [Orvant::Error] where there is no such segment
    def of_segment(workspace, said)
      all_of(said) do |one|
        name, _, wanted = one.partition("=")
        segment = segment(workspace.convention, name)
        wanted = "" if wanted == TrafficFilters::NOTHING
        field = segment.column.delete_prefix("combinations.")
        values = workspace.combinations.distinct.limit(MOST_OWN).pluck(field)
        Combination.where(field => values.select { |value| segment.value(value) == wanted })
      end
    end

    # @param convention [Orvant::Convention]
    # @return [Array<String>] what the roles that rows name tell apart: values as they are meant, and segments
    def of_roles(convention)
      roles = convention.roles.select { |role| Combination::FIELDS.include?(role.name) }
      roles.map { |role| "#{MEANT}.#{role.name}" } +
        roles.flat_map { |role| role.segment_names.map { |part| "#{role.name}.#{part}" } }
    end

    private

    def all_of(said) = said.to_s.lines(chomp: true).map { |one| yield(one) }.reduce(Combination.all, :and)

    def segment(convention, name)
      unless (known = of_roles(convention)).include?(name)
        raise Orvant::Error,
          "There is no segment “#{name[0, Orvant::Cut::QUOTE]}”; there are: #{known.join(", ")}."
      end

      new(name, convention)
    end

    # @return [Array<String>] how a pair stands in what is stored
    def written(pair)
      [JSON.generate(pair), ActiveSupport::JSON.encode(pair)].uniq.map { |text| text[1..-2] }
    end

    # Letter case counts, in every database.
    def holds(text) = "REPLACE(#{OWN_TEXT}, #{Combination.connection.quote(text)}, '') <> #{OWN_TEXT}"
  end

  # @return [String]
  attr_reader :name

  # @param name [String]
  # @param convention [Orvant::Convention] whose names have segments
  # @raise [Orvant::Error] where there is none
  def initialize(name, convention)
    @name = name
    role, @part = name.split(".", 2)
    role, @part = @part, MEANT if role == MEANT
    @role = convention.role(role) if @part
    known = [*USUAL, *self.class.of_roles(convention)]
    unless known.include?(name) || own?
      raise Orvant::Error, "There is no dimension “#{name[0, Orvant::Cut::QUOTE]}”; there are: #{known.join(", ")}."
    end
  end

  # @return [String] what rows are grouped by
  def column
    return OWN_TEXT if own?
    return CAUSE if name == "cause"
    return DAY if time?

    "combinations.#{@role ? @role.name : name}"
  end

  # @param cell [Object] as the column gave it
  # @return [String]
  def value(cell)
    return cell.to_date.strftime(TIMES[name]) if time?
    return JSON.parse(cell)[@part].to_s if own?

    return cell.to_s unless @role

    (@part == MEANT) ? Orvant::Checks::Param::Tidy.meant(cell, @role) : @role.segment_in(cell, @part).to_s
  end

  # @return [Boolean] whether it is a stretch of days
  def time? = TIMES.key?(name)

  # @return [Boolean] whether its column holds just what is shown, and always something
  def plain? = name == "day" || Combination::FIELDS.include?(name)

  # @return [Boolean] whether sums by month are enough for it
  def month? = name == "month"

  private

  def own? = name.start_with?(OWN) && name.size > OWN.size
end
