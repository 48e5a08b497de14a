# frozen_string_literal: true

RSpec.describe Orvant::Watching do
  # what is wanted, a page, whether it is that
  [
    ["/thanks", "www.a.test/thanks", true], ["/thanks", "www.a.test/thanks?x=1#y", true], ["/thanks", "www.a.test/thanks/", false], ["www.a.test/thanks", "shop.a.test/thanks", false],
    ["/groups/*", "www.a.test/groups/enquiry/thanks", true], ["/groups/*", "www.a.test/groups", false], ["/tickets/*/thanks", "www.a.test/tickets/day/thanks", true],
    ["/tickets/*/thanks", "www.a.test/tickets/day", false], ["/tickets/*/thanks", "www.a.test/tickets/day/two/thanks", false], ["/tickets/*/thanks", "www.a.test/tickets/day/thanks/again", false],
    ["*.a.test/x", "shop.a.test/x", true], ["/a.b/*/c*", "www.a.test/a.b/1/cd/e", true], ["/a.b/*/c*", "www.a.test/aXb/1/cd", false], ["/", "www.a.test", true]
  ].each do |wanted, page, expected|
    it "#{expected ? "takes" : "does not take"} #{page} for #{wanted}" do
      expect(described_class.on?(wanted, page)).to be(expected)
    end
  end

  it "knows the last of the steps that a page is" do
    watching = described_class.new("steps" => [{"name" => "form", "page" => "/f*"}, {"name" => "thanks", "page" => "/f/thanks"}])
    expect(["a.test/", "a.test/f", "a.test/f/thanks"].map { |page| watching.step_of(page) }).to eq([0, 1, 2])
    expect(described_class.new.step_of("a.test/f")).to eq(0)
  end
end

RSpec.describe Orvant::Checks::Tag::TagCheck do
  it "looks where it says that it looks, whoever has written it" do
    places = {[] => [], [:goal_pages] => [:judge_load], [:other_states] => [:judge_beside], %i[goal_pages other_states] => %i[judge_load judge_beside]}
    page = "www.skerryline.example/walks"
    visit = Orvant::Browser::PageVisit.new(address: "http://#{page}", page: page, final_address: "http://#{page}", signals: [], tags: [], watched: 2_000)
    subject = Orvant::Checks::Tag::Subject.new(visit: visit, watching: Orvant::Watching.new({}), names: {}, roles: {})
    known = Orvant::Check.family("tag")
    places.each do |named, asked|
      made_up = Class.new(described_class) do
        describes "tag/spec", weight: "untidy", why: "", fails: {}, passes: {}
        looks_at(*named)
        define_method(:findings) { [finding("There.", root: "spec")] }
      end
      allow(Orvant::Check).to receive(:family).with("tag").and_return(known + [made_up])
      found = %i[judge judge_load judge_beside].select { |way| Orvant::Checks::Tag.public_send(way, subject).map(&:code).include?("tag/spec") }
      expect(found).to eq([:judge, *asked])
    end
  end
end
