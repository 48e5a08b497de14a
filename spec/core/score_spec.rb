# frozen_string_literal: true

RSpec.describe Orvant::Rehearsal::Score do
  # @param wanted [String] expectations, `step event times`, parted by commas
  # @param heard [String] signals, `step event order`, parted by commas; an order makes it a conversion
  def score(wanted, heard, landing: {}, carried: {})
    expectations =
      wanted
        .split(", ")
        .map(&:split)
        .map { |step, event, times|
          {"tag" => "gauge", "event" => event, "step" => step.to_i, "times" => times.to_i}
        }
    signals =
      heard
        .split(", ")
        .map(&:split)
        .each_with_index
        .map do |(step, event, order), index|
          Orvant::Signal.new(
            tag: "gauge",
            event: event,
            step: step.to_i,
            at: index * 10,
            kind: order ? "conversion" : "page_view",
            values: {"order" => order, **carried}.compact,
            page: "http://www.skerryline.example/thanks"
          )
        end
    described_class.new(
      Orvant::Rehearsal::Run.new(expectations: expectations, signals: signals, landing: landing, steps: [])
    )
  end

  def notes(score) = score.notes.map { |note| "#{note.step} #{note.event} #{note.state}" }.join(", ")

  {
    ["1 view 1", "1 view"] => "1 view heard",
    # Two orders with one number are one order that counts twice.
    ["1 sale 1, 2 sale 1", "1 sale A, 2 sale B"] => "1 sale heard, 2 sale heard",
    ["1 view 1", ""] => "1 view absent",
    ["1 view 2", "1 view"] => "1 view absent, 1 view heard",
    # A view of the next page is nobody's business where the first was heard.
    ["1 view 1", "1 view, 2 view"] => "1 view heard, 2 view overheard",
    ["1 view 1", "2 view"] => "1 view awaited, 2 view elsewhere",
    ["2 lead 1", "2 lead A"] => "2 lead heard",
    ["2 lead 1", "3 lead A"] => "2 lead awaited, 3 lead elsewhere",
    ["2 lead 1", "2 lead A, 3 lead A"] => "2 lead heard, 3 lead again",
    ["2 lead 1", "2 lead A, 2 lead A"] => "2 lead heard, 2 lead again",
    # Another order is another conversion, of which nobody speaks.
    ["2 lead 1", "2 lead A, 3 lead B"] => "2 lead heard, 3 lead unexpected",
    ["2 lead 1, 3 lead 0", "2 lead A, 3 lead A"] => "2 lead heard, 3 lead again",
    # How often is meant exactly, of whatever order.
    ["2 lead 1", "2 lead A, 2 lead B"] => "2 lead heard, 2 lead unexpected",
    ["1 view 1", "1 view, 1 view, 1 view"] => "1 view heard, 1 view again, 1 view again",
    ["1 view 0", "1 view"] => "1 view unexpected",
    # What is expected in two steps is not met twice by one.
    ["2 lead 1, 5 lead 1", "2 lead A"] => "2 lead heard, 5 lead absent",
    ["2 lead 2", "2 lead A, 2 lead B"] => "2 lead heard, 2 lead heard",
    ["3 lead 0", ""] => "",
    ["", "1 lead A, 1 view"] => "1 lead unexpected, 1 view overheard"
  }.each do |(wanted, heard), expected|
    it "reads #{heard.empty? ? "silence" : heard} where #{wanted.empty? ? "nothing" : wanted} is wanted" do
      expect(notes(score(wanted, heard))).to eq(expected)
    end
  end

  {
    ["1 lead 1", "1 lead A"] => [[], []],
    ["1 lead 1", "1 lead A, 2 lead A"] => [[], ["lead"]],
    ["1 lead 1, 2 view 1", "2 view"] => [["lead"], []],
    ["1 lead 2", "1 lead A, 2 lead A"] => [[], []],
    ["1 sale 1, 2 sale 1", "1 sale A, 2 sale A"] => [[], %w[sale]],
    ["1 sale 1, 2 sale 1", "1 sale A, 2 sale B"] => [[], []]
  }.each do |(wanted, heard), (absent, repeated)|
    it "gives the checks #{absent} as absent and #{repeated} as repeated for #{heard} where #{wanted} is wanted" do
      one = score(wanted, heard)
      expect([one.absent.map(&:event), one.repeated.map { |wish, _| wish.event }]).to eq([absent, repeated])
    end
  end

  {
    [{"source" => "letter"}, {"source" => "letter"}] => [],
    [{"source" => "letter"}, {"source" => "Letter"}] => ["source"],
    [{"source" => "letter", "medium" => "email"}, {"source" => "letter"}] => ["medium"],
    [{}, {"source" => "letter"}] => []
  }.each do |(landing, carried), lost|
    it "says that #{carried} has lost #{lost} of #{landing}" do
      lineage = score("1 lead 1", "1 lead A", landing: landing, carried: carried).to_h["lineage"]
      expect(lineage.map { |one| one["lost"] }).to eq([lost])
    end
  end

  # the second host's address, parameters that hand the visitor on => what is said of how it was lost
  {
    ["http://booking.test/form", []] => /No parameter of booking.test\/form and no cookie of both hosts/,
    ["http://booking.test/form?gw_from=", %w[gw_from]] => /The parameter “gw_from”, which hands it on, does not stand in the address of booking.test\/form/,
    ["http://booking.test/form?x=1&gw_from=v%201", %w[gw_to gw_from]] => /“gw_from” stands in the address of booking.test\/form with “v 1”, and was not taken there/,
    ["http://www.test/two", %w[gw_from]] => nil
  }.each do |(second, names), said|
    it "says #{said ? said.source[0, 60] : "nothing"} of a visitor who is another one at #{second}" do
      signals = [["http://www.test/", "v 1"], [second, "v 2"]].each_with_index.map do |(page, visitor), at|
        Orvant::Signal.new(tag: "gauge", event: "view", kind: "page_view", step: at + 1, at: at, page: page, values: {"visitor" => visitor}, request: "r")
      end
      steps = [1, 2].map do |number|
        {"number" => number, "does" => (number == 1) ? "open http://www.test/" : "click “On”", "page" => second}
      end
      run = Orvant::Rehearsal::Run.new(rehearsal: "r", steps: steps, signals: signals, expectations: [], landing: {}, handovers: {"gauge" => names})
      expect(Orvant::Checks::Journey::Lost.new(run).findings.map(&:message)).to match(said ? [said] : [])
    end
  end
end
