# frozen_string_literal: true

require_relative "../app_helper"

RSpec.describe Ahead do
  it "hands on all parts in their order, made in another thread" do
    makers = []
    parts = Enumerator.new { |to| 5.times { |number| (makers << Thread.current) && to << number.to_s } }
    expect(described_class.new(parts).enum_for(:each).to_a).to eq(%w[0 1 2 3 4])
    expect(makers.uniq).to match([satisfy { |one| one != Thread.current && !one.alive? }])
  end

  it "hands on what was made before a part fails, then the failure" do
    parts = Enumerator.new { |to| (to << "good") && raise(IOError, "the database is gone") }
    taken = []
    expect { described_class.new(parts).each { |part| taken << part } }.to raise_error(IOError, /is gone/)
    expect(taken).to eq(["good"])
  end

  it "makes no more for one who has left" do
    maker = nil
    parts = Enumerator.new { |to| (maker = Thread.current) && loop { to << "more" } }
    described_class.new(parts).each { break }
    expect(maker.join(10)).to eq(maker)
  end
end
