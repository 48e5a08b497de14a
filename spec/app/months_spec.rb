# frozen_string_literal: true

require_relative "../app_helper"

# A period is put together of sums of months, days beside them and days taken off again: it must say what its
# rows say, whatever it begins and ends with, and whichever months have changed.
RSpec.describe CombinationMonth, :empty do
  before do
    DemoFixture.clear
    @workspace = Founding.call(title: "Skerry Line", own_hosts: ["www.skerryline.example"])
    other = Founding.call(title: "Other", own_hosts: ["a.test"])
    chance = Random.new(31)
    # Half a year with a month without rows, days at both ends of months, a leap day, and years apart.
    days = Array.new(60) { Date.new(2027, 12, 28) + chance.rand(110) }.reject { |day| day.month == 2 && day.day < 29 } +
      [Date.new(2028, 2, 29), Date.new(2028, 1, 1), Date.new(2028, 1, 31), Date.new(2028, 3, 31), Date.new(2031, 7, 4)]
    rows = days.map { |day| "#{day.iso8601},#{%w[tidepost crew-letter poster].sample(random: chance)},#{1 + chance.rand(50)},#{chance.rand(5)}" }
    [@workspace, other].each do |one|
      TrafficImporting.new(one, "date,source,sessions,conversions\n#{rows.join("\n")}", filename: "r.csv", source: "rows").call
      described_class.renew(one)
    end
    @days = days.uniq.sort
  end

  def said(period)
    rows, figures = Combination.of_months(@workspace, period)
    rows.group("combinations.source").pluck("combinations.source", *%w[row_count sessions conversions].map { |name| Arel.sql("SUM(#{figures}.#{name})") })
      .to_h { |source, *sums| [source, sums.map(&:to_i)] }
  end

  def told(period)
    rows = TrafficRow.where(workspace: @workspace).to_a.select { |row| period.nil? || period.cover?(row.date) }
    rows.group_by { |row| row.combination.source }.transform_values { |same| [same.size, same.sum(&:sessions), same.sum(&:conversions)] }
  end

  it "says of every period what its rows say" do
    chance = Random.new(32)
    ends = [nil, *@days, *@days.map(&:beginning_of_month), *@days.map(&:end_of_month)].uniq
    periods = Array.new(150) { [ends, ends].map { |some| some.sample(random: chance) } }
      .select { |from, to| from.nil? || to.nil? || from <= to }.map { |from, to| from..to }
    [nil, Date.new(2020, 1, 1)..Date.new(2020, 2, 1), Date.new(2040, 1, 1).., *periods].each do |period|
      expect(said(period)).to eq(told(period)), period.inspect
    end
  end

  it "says so while some months are to be summed anew, and when they have been" do
    chance = Random.new(33)
    12.times do |turn|
      day = @days.sample(random: chance)
      TrafficImporting.new(@workspace, "date,source,sessions\n#{day.iso8601},late-#{turn},#{turn + 1}\n", filename: "l.csv", source: ["rows", "late-#{turn}"].sample(random: chance)).call
      described_class.renew(@workspace) if turn.odd?
      [nil, day.beginning_of_month..day.end_of_month, (day - 20)..(day + 20), day..day].each do |period|
        expect(said(period)).to eq(told(period)), "#{turn}: #{period.inspect}"
      end
    end
  end

  it "says by month what the rows of each month say" do
    rows, = Combination.of_months(@workspace, Date.new(2028, 1, 10)..Date.new(2028, 3, 20), ["month"])
    sums = rows.group("of_days.month").pluck(Arel.sql("of_days.month"), Arel.sql("SUM(of_days.sessions)")).to_h { |month, sessions| [month.to_date, sessions.to_i] }
    expected = @workspace.traffic_rows.where(date: Date.new(2028, 1, 10)..Date.new(2028, 3, 20)).to_a.group_by { |row| row.date.beginning_of_month }
    expect(sums).to eq(expected.transform_values { |same| same.sum(&:sessions) })
  end

  it "keeps the largest figures of a month's rows, and nothing of months that are gone" do
    expected = @workspace.traffic_rows.to_a.group_by { |row| [row.combination_id, row.date.beginning_of_month] }
    expect(described_class.where(workspace: @workspace).to_h { |one| [[one.combination_id, one.month], one.most_sessions] })
      .to eq(expected.transform_values { |same| same.map(&:sessions).max })
    ImportRemoval.new(@workspace.imports.sole).call
    described_class.renew(@workspace)
    expect(described_class.where(workspace: @workspace)).to be_empty
    expect(said(nil)).to eq({})
    expect(described_class.where.not(workspace: @workspace)).to exist
  end

  it "reads rows where there are more months than sums are put together of" do
    stub_const("CombinationMonth::MOST_MONTHS", 2)
    expect(said(nil)).to eq(told(nil))
    expect(described_class.of(@workspace, nil)).not_to include("combination_months")
  end
end
