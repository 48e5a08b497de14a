# frozen_string_literal: true

# Documents that people wrote for the first version, as its demo held them: they load, and say what they said.
RSpec.describe "Documents of version 1" do
  def text(name) = File.read(File.expand_path("../support/core/version_1/#{name}.json", __dir__))

  let(:convention) { Orvant::Convention.read(text("convention")) }

  it "are conventions without contradictions" do
    expect(Orvant::Convention::Consistency.new(JSON.parse(text("convention"))).faults).to eq([])
    expect(convention.roles.map(&:name)).to include("source", "medium", "campaign")
  end

  {
    "utm_source=island-letter&utm_medium=email&utm_campaign=june" => [],
    "utm_source=island-letter&utm_medium=Email&utm_campaign=june" => ["param/case"],
    "utm_source=island-letter&utm_medium=email" => ["param/missing"],
    "" => ["param/missing"]
  }.each do |query, codes|
    it "judge a message with #{query.empty? ? "nothing" : query} as before" do
      found = Orvant::Checks::Param.judge(address("http://www.skerryline.example/day-pass?#{query}"), convention, kind: "message")
      expect(found.map(&:code).uniq).to eq(codes)
    end
  end

  it "tell pages apart by all that is no carrier, for want of other rules" do
    pages = %w[?utm_source=a ?v=1 ?v=2 #top].map do |tail|
      convention.page_of(address("http://www.skerryline.example/gift-card#{tail}"))
    end
    expect(pages.map { |page| page[/\/gift-card(.*)/, 1] }).to eq(["", "?v=1", "?v=2", ""])
  end

  it "are signatures and rehearsals" do
    expect(Orvant::Signal::Signature.read(text("gullwatch"))
      .on_wire?(address("http://in.gullwatch.example/c?ev=view"))).to be(true)
    expect(Orvant::Rehearsal.read(text("group-enquiry-clubs")).steps.size).to be > 3
  end
end
