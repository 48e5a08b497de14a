# frozen_string_literal: true

RSpec.describe Orvant::Rehearsal::Comparison do
  # @param text [String] signals, `step event field=value`, parted by commas
  def run(text, steps)
    signals = text.split(", ").map(&:split).map do |step, event, *values|
      Orvant::Signal.new(tag: "gauge", event: event, step: step.to_i, kind: "other", values: values.to_h { |pair| pair.split("=") })
    end
    Orvant::Rehearsal::Run.new(steps: steps.map.with_index(1) { |step, number| {"number" => number, "does" => "click “Send”", "page" => "http://a.test/thanks?order=#{rand}"}.merge(step) }, signals: signals)
  end

  def changes(before, after)
    described_class.new(before, after, names: {"gauge" => "Gauge"}).steps
      .map { |one| [one.step, *one.changes] }
  end

  {
    ["1 view", "1 view"] => [],
    ["1 view", ""] => ["Gauge “view” is not heard any more."],
    ["", "1 lead value=4"] => ["Gauge “lead” is heard now."],
    ["1 view", "1 view, 1 view"] => ["Gauge “view” is heard 2 times, and was 1 time."],
    ["1 lead order=A-1 value=48", "1 lead order=A-2 value=49"] => ["Gauge “lead” says value “49”, and said “48”."],
    ["1 lead order=A-1", "1 lead"] => ["Gauge “lead” says order nothing, and said “A-1”."],
    ["1 lead source=isle", "1 lead"] => ["Gauge “lead” says source nothing, and said “isle”."]
  }.each do |(before, after), said|
    it "tells #{before.inspect} from #{after.inspect}" do
      expect(changes(run(before, [{}]), run(after, [{}]))).to eq(said.empty? ? [] : [[1, *said]])
    end
  end

  it "tells of steps that fail, come to another page, hold something else, or are not reached" do
    held = ->(found) { {"holds" => [{"kind" => "field", "name" => "src", "found" => found}.compact]} }
    before = run("", [{}, held.call("isle"), {"error" => "It is covered."}, {}])
    after = run("", [{"page" => "http://a.test/other"}, held.call(nil), {}])
    expect(changes(before, after)).to eq([[1, "It ends on http://a.test/other, and ended on http://a.test/thanks."], [2, "The field src holds nothing, and held “isle”."],
      [3, "It can be done again; it failed with: It is covered."], [4, "It is not reached any more."]])
  end
end
