# frozen_string_literal: true

# What is remembered is never another answer than the one that was worked out, however little it holds.
RSpec.describe Orvant::Memory do
  it "works out once what is the same, and begins anew when it is full" do
    worked = []
    memory = described_class.new(2)
    answers = %w[a b a b c a].map { |thing| memory.fetch(+thing) { worked << thing and thing.upcase } }
    expect([answers, worked]).to eq([%w[A B A B C A], %w[a b c a]])
    expect([memory.keep("z", 9), memory.fetch("z") { 0 }]).to eq([9, 9])
    expect([memory.keep("none", nil), memory.fetch("none") { 0 }]).to eq([nil, nil])
  end

  it "takes only the very same object for the same, where it is asked to" do
    memory = described_class.of_objects(9)
    first, second = +"a", +"a"
    expect([memory.fetch(first) { 1 }, memory.fetch(second) { 2 }, memory.fetch(first) { 3 }]).to eq([1, 2, 1])
  end

  it "works out together what is not known of many" do
    asked = []
    memory = described_class.new(4)
    all = ->(*things) { memory.fetch_all(things) { |missing| asked << missing and missing.map { |one| one * 10 } } }
    expect([all[1, 2], all[3, 2, 1], all[], all[2, 4], memory.fetch(4) { 0 }]).to eq([[10, 20], [30, 20, 10], [], [20, 40], 40])
    # With a fifth it begins anew, and what is asked for beside it is worked out again.
    expect([all[5, 1], asked]).to eq([[50, 10], [[1, 2], [3], [4], [5, 1]]])
  end

  it "answers as without it, whatever it is asked for (seeded)" do
    random = Random.new(11)
    memory = described_class.new(7)
    500.times do
      things = Array.new(random.rand(1..7)) { random.rand(30) }.uniq
      expect(memory.fetch_all(things) { |missing| missing.map { |one| one**2 } }).to eq(things.map { |one| one**2 })
      expect(things.map { |one| memory.fetch(one) { raise "forgotten" } }).to eq(things.map { |one| one**2 })
    end
  end
end
