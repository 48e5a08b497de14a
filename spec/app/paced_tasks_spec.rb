# frozen_string_literal: true

require_relative "../app_helper"

# A host is visited as often at once as it allows, and no sooner than its pause says, whatever waits before.
RSpec.describe PacedTasks do
  let(:limits) do
    Orvant::Net::Limits.usual.tap do |all|
      all.per_host = 2
      all.hosts = {"one.test" => {per_host: 1}, "slow.test" => {per_host: 1, pause: 5.0}}
    end
  end

  def paced(*tasks)
    @now = 100.0
    list = tasks.map { |hosts, visits| described_class::Task.new(hosts.split("+"), visits || 1, nil) }
    described_class.new(list, limits, clock: -> { @now })
  end

  # Takes what may begin now, each before the one before has ended, and says which hosts these are.
  def begun(tasks)
    allow(tasks.instance_variable_get(:@changed)).to receive(:wait) { throw :waiting }
    taken = []
    take = -> { tasks.take { |task| taken << task.hosts.join("+") && take.call } }
    catch(:waiting) { take.call }
    taken
  end

  {
    "as many at once as the host allows" => [["a.test", "a.test", "a.test"], %w[a.test a.test]],
    "others while one host is busy" => [["one.test", "one.test", "b.test"], %w[one.test b.test]],
    "both hosts of a way that are free" => [["one.test+b.test", "c.test+one.test", "b.test", "b.test"], %w[one.test+b.test b.test]],
    "a host that pauses once" => [["slow.test", "slow.test", "a.test"], %w[slow.test a.test]],
    "nothing of nothing" => [[], []]
  }.each do |what, (tasks, expected)|
    it("begins #{what}") { expect(begun(paced(*tasks))).to match_array(expected) }
  end

  it "begins anew after the pause, one for each visit that was made" do
    tasks = paced(["slow.test", 3], ["slow.test", 1])
    tasks.take { |task| expect(task.visits).to eq(3) }
    taken = Queue.new
    waiting = Thread.new { tasks.take { |task| taken << task.visits } }
    Timeout.timeout(5) { Thread.pass until waiting.stop? }
    expect(taken).to be_empty
    @now += 15.0
    tasks.send(:finish, described_class::Task.new([], 0, nil))
    waiting.join
    expect(taken.pop).to eq(1)
    expect(tasks.take { raise "there is none left" }).to be(false)
  end

  it "frees the host of a visit that failed" do
    tasks = paced("one.test", "one.test")
    expect { tasks.take { raise Orvant::Error, "the tab has gone" } }.to raise_error(/tab has gone/)
    expect(tasks.take { |task| task.hosts }).to be(true)
  end
end
