# frozen_string_literal: true

require_relative "../app_helper"

# A period that people look at is summed by the worker. Whether it has been or not, and whatever happens to its
# rows, it must say what its rows say.
RSpec.describe AskedPeriod, :empty do
  include ReadElsewhere

  before do
    DemoFixture.clear
    stub_const("AskedPeriod::LEAST", 5)
    @workspace = Founding.call(title: "Skerry Line", own_hosts: ["www.skerryline.example"])
    @other = Founding.call(title: "Other", own_hosts: ["a.test"])
    chance = Random.new(51)
    rows = Array.new(200) do |number|
      "#{(Date.new(2026, 8, 24) + number / 3).iso8601},#{%w[tidepost crew-letter poster].sample(random: chance)},#{1 + chance.rand(50)}"
    end
    [@workspace, @other].each { |one| import(one, rows, "r.csv") && CombinationMonth.renew(one) }
    Delayed::Job.delete_all
  end

  let(:period) { Date.new(2026, 9, 14)..Date.new(2026, 10, 13) }

  def import(workspace, rows, name)
    TrafficImporting.new(workspace, "date,source,sessions\n#{rows.join("\n")}", filename: name, source: name).call
  end

  def table(days = period, workspace: @workspace)
    TrafficTable.new(workspace, {"down" => "source", "across" => "device", "from" => days.begin&.iso8601, "to" => days.end&.iso8601})
      .document.slice("rows", "totals")
  end

  def sessions(days = period, workspace: @workspace)
    table(days, workspace: workspace)["rows"].to_h { |row| row.values_at("value", "sessions") }
  end

  def told(days = period, workspace: @workspace)
    rows = workspace.traffic_rows.where(date: days).includes(:combination)
    rows.group_by { |row| row.combination.source }.transform_values { |same| same.sum(&:sessions) }
  end

  def jobs = Delayed::Job.where("handler LIKE '%PeriodsJob%'")

  def work = jobs.to_a.each { |job| job.destroy && job.payload_object.perform }

  def kept = described_class.where(workspace: @workspace).map { |one| [one.first_on..one.last_on, one.stale] }

  it "is asked for once, summed by the worker, and read from its sums" do
    before = table
    expect { 3.times { table } }.not_to change(jobs, :count).from(1)
    work
    expect(kept).to eq([[period, AskedPeriod::FRESH]])
    expect(table).to eq(before)
    expect(sessions).to eq(told)
    AskedPeriod::Sum.where(workspace_id: @workspace.id).update_all("sessions = sessions * 10")
    expect(sessions).to eq(told.transform_values { |count| count * 10 })
  end

  it "may be several months as a whole, and all days" do
    [Date.new(2026, 9, 1)..Date.new(2026, 10, 31), nil..nil].each do |days|
      summed = -> { Combination.of_months(@workspace, days)[0].sum("of_days.sessions") }
      expect { work }.not_to change(&summed).from(@workspace.traffic_rows.where(date: days).sum(:sessions))
    end
    expect(kept.map(&:last)).to eq([AskedPeriod::FRESH] * 2)
  end

  it "does not hold once a row of its days has changed, until it is summed anew" do
    table
    table(Date.new(2026, 8, 25)..Date.new(2026, 9, 5))
    work
    import(@workspace, ["2026-10-13,late,7"], "late.csv")
    expect(kept.map(&:last)).to contain_exactly(AskedPeriod::STALE, AskedPeriod::FRESH)
    expect(sessions).to eq(told).and include("late" => 7)
    described_class.renew(@workspace)
    expect(kept.map(&:last)).to all(eq(AskedPeriod::FRESH))
    expect(sessions).to eq(told)
    ImportRemoval.new(@workspace.imports.find_by!(filename: "late.csv")).call
    expect(sessions).to eq(told)
    expect(sessions.keys).not_to include("late")
  end

  it "stays stale where rows change while it is being summed" do
    table
    allow(CombinationMonth).to receive(:of).and_wrap_original do |original, *given|
      allow(CombinationMonth).to receive(:of).and_call_original
      original.call(*given).tap { read_elsewhere(@workspace, "date,source,sessions\n2026-09-20,meanwhile,9\n", "m.csv") }
    end
    described_class.renew(@workspace)
    expect(kept).to eq([[period, AskedPeriod::STALE]])
    expect(sessions).to eq(told).and include("meanwhile" => 9)
  end

  it "is none where a month's own sums, or few rows, tell" do
    table(Date.new(2026, 9, 1)..Date.new(2026, 9, 30))
    table(Date.new(2026, 9, 30)..Date.new(2026, 10, 1))
    table(Date.new(2040, 1, 1)..)
    expect([described_class.count, jobs.count]).to eq([0, 0])
    table(Date.new(2026, 9, 30)..Date.new(2026, 10, 2))
    expect([described_class.count, jobs.count]).to eq([1, 1])
  end

  it "is the same whichever days without rows it is asked with, and belongs to its workspace" do
    [Date.new(2026, 9, 14).., Date.new(2026, 9, 14)..Date.new(2027, 1, 1), Date.new(2026, 9, 14)..Date.new(2026, 10, 29)].each do |days|
      expect(sessions(days)).to eq(told(days))
    end
    expect(kept).to eq([[Date.new(2026, 9, 14)..Date.new(2026, 10, 31), AskedPeriod::STALE]])
    table(Date.new(2026, 9, 14).., workspace: @other)
    work
    expect(AskedPeriod::Sum.distinct.pluck(:workspace_id)).to contain_exactly(@workspace.id, @other.id)
    Closing.new(@workspace).delete
    expect(AskedPeriod::Sum.distinct.pluck(:workspace_id)).to eq([@other.id])
  end

  it "is forgotten when nobody has looked for a month, or others are looked at" do
    stub_const("AskedPeriod::MOST", 2)
    starts = (14..17).map { |day| Date.new(2026, 9, day)..Date.new(2026, 10, 13) }
    starts.each { |days| table(days) }
    work
    expect(kept.map(&:first)).to eq(starts.last(2))
    described_class.where(first_on: starts.last.begin).update_all(asked_on: Date.current - 31)
    described_class.renew(@workspace)
    expect(kept.map(&:first)).to eq([starts[2]])
    expect(AskedPeriod::Sum.distinct.pluck(:asked_period_id)).to eq(described_class.ids)
    expect(sessions(starts.last)).to eq(told(starts.last))
  end
end
