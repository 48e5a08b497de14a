# frozen_string_literal: true

require_relative "../app_helper"

# Whatever a table is turned by, it says what its rows say: it is read from the smallest sums that can tell,
# and these must not be told apart from the rows by anybody.
RSpec.describe TrafficSums, :empty do
  include ApiCalls
  include ReadElsewhere

  chance = Random.new(61)
  dimensions = %w[source medium campaign landing device channel cause day week month campaign.year meant.medium own.event]
  columns = "date,source,medium,campaign,landing page,device,event,sessions,conversions,revenue,zone"
  rows = Array.new(400) do |number|
    source, medium, campaign = [["island-letter", "email", "2026-spring"], ["tidepost", "Paid-Social", "2025-spring"], ["", "", ""], ["crew-letter", "Email", "x-#{chance.rand(40)}"]].sample(random: chance)
    [Date.new(2026, 8, 27) + chance.rand(70), source, medium, campaign, "/p#{chance.rand(30)}", %w[phone desktop].sample(random: chance), ["", "sale", "lead"].sample(random: chance), chance.rand(5), chance.rand(3), chance.rand(90), ["north", "south", ""][number % 3]].join(",")
  end

  before do
    DemoFixture.clear
    @workspace = Founding.call(title: "Skerry Line", own_hosts: ["www.skerryline.example"])
    other = Founding.call(title: "Other", own_hosts: ["a.test"])
    rules = JSON.parse(File.read(File.join(ROOT, "demo/data/convention.json")))
    rules["roles"].find { |role| role["role"] == "campaign" }.merge!("separator" => "-", "segments" => [{"segment" => "year", "values" => %w[2025 2026]}, {"segment" => "what", "values" => %w[spring]}])
    ConventionVersion.save!(@workspace, rules, base: @workspace.convention_version.version)
    [@workspace, other].each { |one| import(one, "#{columns}\n#{rows.join("\n")}") }
    apart
  end

  def import(workspace, text, source: "rows")
    TrafficImporting.new(workspace, text, filename: "t.csv", source: source).call
    Explaining.new(workspace.reload).call
  end

  # Some days are explained otherwise than their combinations.
  def apart
    @workspace.explanations.create!(digest: "other", cause: "self-referral", causes: [])
    ids = [*@workspace.explanations.ids]
    @workspace.traffic_rows.order(:id).each_slice(9) { |some| some.first.update_columns(explanation_id: ids.sample(random: Random.new(some.first.id))) }
    TrafficDay::Stale.mark(@workspace, @workspace.traffic_rows.distinct.pluck(:date))
    TrafficDay.renew(@workspace)
  end

  # What every row says, put together in Ruby.
  def judged(down, across, from: nil, to: nil, **filters)
    all = TrafficRow.documents(@workspace.traffic_rows.where(date: [from, to].map { |day| day && Date.iso8601(day) }.then { |ends| Range.new(*ends) }).to_a)
    all = all.select { |row| filters.all? { |name, value| row[name.to_s].to_s == ((value == "–") ? "" : value) } }
    all.group_by { |row| said(row, down) }.transform_values do |same|
      [counted(same), across ? same.group_by { |row| said(row, across) }.transform_values { |some| counted(some) } : {}]
    end
  end

  def said(row, dimension)
    case dimension
    when "day", "week", "month" then Date.iso8601(row["date"]).strftime(TrafficDimension::TIMES.fetch(dimension))
    when "campaign.year" then row["campaign"][/\A(\d{4})-spring\z/, 1].to_s
    when "meant.medium" then row["medium"].downcase
    when "own.event" then row["own"]["event"].to_s
    else row[dimension].to_s
    end
  end

  def counted(rows) = %w[sessions conversions revenue].map { |measure| rows.sum { |row| row[measure] } }

  def told(asked)
    table = call(:get, "/traffic/table?#{URI.encode_www_form(asked)}")
    measures = ->(one) { one.values_at("sessions", "conversions", "revenue") }
    expect(measures[table["totals"]]).to eq(table["rows"].map(&measures).transpose.map(&:sum).then { |sums| sums.empty? ? [0, 0, 0] : sums })
    table["rows"].to_h { |row| [row["value"], [measures[row], row["cells"].transform_values(&measures)]] }
  end

  # Columns beyond those that are shown are the rest.
  def shown(judged, cells)
    names = cells.flat_map { |_, (_, across)| across.keys }.uniq
    judged.transform_values do |sums, across|
      kept, rest = across.partition { |name, _| names.include?(name) }
      [sums, rest.empty? ? kept.to_h : {**kept.to_h, TrafficTable::REST => rest.map(&:last).transpose.map(&:sum)}]
    end
  end

  def asked(chance, dimensions)
    down, across = dimensions.sample(2, random: chance)
    period = {from: ["2026-09-01", "2026-09-12", nil].sample(random: chance), to: ["2026-09-30", "2026-10-17", nil].sample(random: chance)}
    filters = {"source" => "tidepost", "device" => "phone", "channel" => "Direct", "cause" => "self-referral", "campaign" => "–"}
    {down: down, across: [across, nil].sample(random: chance), **period, **filters.to_a.sample(chance.rand(3), random: chance).to_h.transform_keys(&:to_sym)}.compact
  end

  it "says of any two dimensions, in any period and narrowed by anything, what the rows say" do
    chance = Random.new(62)
    wishes = Array.new(150) { asked(chance, dimensions) }
    check = lambda do |some|
      some.each do |wish|
        cells = told(wish)
        expected = judged(*wish.values_at(:down, :across), **wish.except(:down, :across))
        expect(cells).to eq(shown(expected, cells)), wish.inspect
      end
    end
    check[wishes]
    # Days that have changed and are not summed yet. Channels, causes and whole days wait to be explained.
    TrafficImporting.new(@workspace, "#{columns}\n2026-09-14,late,email,2026-spring,/p1,phone,,7,1,3\n", filename: "late.csv", source: "late").call
    Combination.renew(@workspace)
    told_of = wishes.reject { |wish| wish.values.intersect?(%w[channel cause]) || wish.key?(:channel) || wish.key?(:cause) }
    check[told_of.select { |wish| [*wish.values_at(:down, :across), *wish.keys.map(&:to_s)].intersect?(Combination::FIELDS) }]
  end

  # What two filters say together: own dimensions and segments may be several, one a line.
  def together(*asked)
    asked.reduce { |one, other| one.merge(other) { |_, known, value| "#{known}\n#{value}" } }
  end

  # The rows that a cell opens, by the filters that stand for its values.
  def behind(dimension, value)
    filled = value.empty? ? "–" : value
    case dimension
    when "day" then {from: value, to: value}
    when "week" then Date.strptime(value, "%G-W%V").then { |day| {from: day.iso8601, to: (day + 6).iso8601} }
    when "month" then Date.strptime(value, "%Y-%m").then { |day| {from: day.iso8601, to: day.end_of_month.iso8601} }
    when "campaign.year", "meant.medium" then {segment: "#{dimension}=#{filled}"}
    when "own.event", "own.zone" then {own: "#{dimension.delete_prefix("own.")}=#{filled}"}
    else {dimension => filled}
    end
  end

  it "opens from each cell the rows that it counts" do
    of_one_kind = [%w[own.event own.zone], %w[campaign.year meant.medium]]
    (of_one_kind + dimensions.permutation(2).to_a.sample(40, random: Random.new(63))).each do |down, across|
      next if [down, across].all? { |one| TrafficDimension::TIMES.key?(one) }

      table = call(:get, "/traffic/table?down=#{down}&across=#{across}")
      table["rows"].sample(3, random: Random.new(64)).each do |row|
        row["cells"].except(TrafficTable::REST).first(3).each do |value, cell|
          asked = together(behind(down, row["value"]), behind(across, value))
          expect(call(:get, "/traffic/rows?limit=1&#{URI.encode_www_form(asked)}")["sessions"]).to eq(cell["sessions"]), asked.inspect
          expect(call(:get, "/traffic/table?down=source&#{URI.encode_www_form(asked)}")["totals"]["sessions"]).to eq(cell["sessions"]), asked.inspect
          listed = call(:get, "/traffic/rows?limit=500&sort=sessions&direction=down&#{URI.encode_www_form(asked)}")["rows"]
          expect(listed.sum { |one| one["sessions"] }).to eq(cell["sessions"]), asked.inspect
        end
      end
    end
  end

  it "puts days in their order, shows the last of many across, and adds up the others" do
    table = call(:get, "/traffic/table?down=source&across=day")
    days = @workspace.traffic_rows.distinct.pluck(:date).sort.map(&:iso8601)
    expect(table["columns"]).to eq([*days.last(TrafficTable::MOST_ACROSS), TrafficTable::REST])
    expect(call(:get, "/traffic/table?down=week")["rows"].map { |row| row["value"] }).to eq(days.map { |day| Date.iso8601(day).strftime("%G-W%V") }.uniq)
    expect(call(:get, "/traffic/table?down=source&across=device")["columns"]).to eq(@workspace.traffic_rows.joins(:combination).group("combinations.device").sum(:sessions).sort_by { |value, sessions| [-sessions, value] }.map(&:first))
  end

  it "knows no dimension that rows do not name, and says which there are" do
    dimension, segment = "There is no dimension", "There is no segment"
    {"down=wave.month" => dimension, "down=meant.landing" => dimension, "segment=wave.month=2026-01" => segment, "segment=campaign.shoe=1" => segment, "segment=week=2026-W40" => segment, "segment=own.event=sale" => segment, "segment=x" => segment}.each do |asked, said|
      expect(call(:get, "/traffic/table?#{asked}", expect_status: 422)["detail"]).to include(said, "campaign.year", "meant.campaign")
      expect(call(:get, "/traffic/rows?#{asked}", expect_status: 422)["detail"]).to be_present
    end
  end

  it "sums what a file brings after its first rows, though its days were summed meanwhile" do
    stub_const("TrafficImporting::BATCH", 1)
    rows = Array.new(3) { |number| "2026-09-14,slow-#{number},email,x,/p1,phone,,7,1,3" }
    summed = lambda do
      [CombinationMonth, ValueDay, TrafficDay].each { |sums| sums.renew(@workspace) }
      AskedPeriod.renew(@workspace)
    end
    importing = TrafficImporting.new(@workspace, "#{columns}\n#{rows.join("\n")}\n", filename: "slow.csv", source: "slow")
    allow(importing).to receive(:flush).and_wrap_original do |original, *given|
      original.call(*given)
      summed.call
    end
    importing.call
    summed.call
    now = @workspace.traffic_rows.sum(:sessions)
    expect([CombinationMonth, TrafficDay].map { |sums| sums.where(workspace: @workspace).sum(:sessions) }).to eq([now, now])
    expect(ValueDay.where(workspace: @workspace, dimension: "source").sum(:sessions)).to eq(now)
  end

  it "sums a day anew that has changed, though it changed while it was being summed" do
    expect(ValueDay.told?(@workspace, nil)).to be(true)
    late = ->(source) { read_elsewhere(@workspace, "#{columns}\n2026-09-14,#{source},email,x,/p1,phone,,7,1,3\n", source) }
    late["late"]
    allow(ValueDay).to receive(:written).and_wrap_original do |original, *given|
      @later ||= late["later"]
      original.call(*given)
    end
    ValueDay.renew(@workspace)
    expect([ValueDay.told?(@workspace, nil), ValueDay.told?(@workspace, Date.new(2026, 9, 15)..)]).to eq([false, true])
    ValueDay.renew(@workspace)
    sums = ValueDay.where(workspace: @workspace, dimension: "source").group(:value).sum(:sessions)
    expect(sums).to eq(@workspace.traffic_rows.joins(:combination).group("combinations.source").sum(:sessions)).and include("late" => 7, "later" => 7)
    ImportRemoval.new(@workspace.imports.where(source: "rows").sole).call
    ValueDay.renew(@workspace)
    expect(ValueDay.where(workspace: @workspace).distinct.pluck(:date)).to eq([Date.new(2026, 9, 14)])
    expect(ValueDay.where.not(workspace: @workspace)).to exist
  end
end
