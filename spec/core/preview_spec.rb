# frozen_string_literal: true

# What a change of the rules would do is said at a glance; here it is held against judging every link in full,
# before and after.
RSpec.describe Orvant::Checks::Param::Preview do
  sound = "utm_source=island-letter&utm_medium=email&utm_campaign=june"
  queries = [
    sound,
    "#{sound}&utm_content=Button",
    "#{sound}&skl_wave=2026-13-top",
    "#{sound}&guest=kari@post.example",
    "#{sound}#utm_content=top",
    "utm_soruce=island-letter&utm_medium=email&utm_campaign=a-longer-name",
    "utm_source=island-letter?utm_medium=email&utm_campaign=june",
    "source=island-letter&utm_medium=email&utm_campaign=june",
    "utm_source=poster&utm_medium=email&utm_campaign=june",
    "utm_source=brightbuoy&utm_medium=display&utm_campaign=june",
    "utm_source=brightbuoy&utm_medium=display&utm_campaign=june&click_no=1",
    "utm_source=tidepost&utm_medium=paid-social&utm_campaign=(~ad.id~)",
    "utm_source=&utm_medium=Email",
    "x=1"
  ]
  document = JSON.parse(File.read(CoreValues::DEMO + "/convention.json"))
  role = ->(name, facts) do
    document.merge("roles" => document["roles"].map { |one| (one["role"] == name) ? one.merge(facts) : one })
  end

  let(:entries) do
    queries
      .product(%w[message ad])
      .each_with_index
      .map do |(query, kind), id|
        sightings =
          (
            if kind == "ad"
              [Orvant::Inventory::Sighting.new(kind: "ad", facts: {"network" => "Tidepost", "account" => "North"})]
            else
              []
            end
          )
        Orvant::Checks::Param::Entry.new(
          id: id,
          kind: kind,
          address: address("http://www.skerryline.example/day-pass?#{query}"),
          sightings: sightings
        )
      end
  end

  def codes(entry, convention) =
    Orvant::Checks::Param
      .judge(entry.address, convention, kind: entry.kind, sightings: entry.sightings)
      .map(&:code)
      .sort

  {
    "nothing" => document,
    "the letter case of a role" => role.call("content", "case" => "upper"),
    "a length" => role.call("campaign", "longest" => 5),
    "a vocabulary" =>
      role.call("source", "vocabulary" => {"closed" => true, "values" => [{"value" => "island-letter"}]}),
    "what is required" => role.call("content", "required" => {"kinds" => ["ad"]}),
    "the pairs" => document.merge("pairs" => document["pairs"].drop(5)),
    "the channels" => document.merge("channels" => document["channels"].first(2)),
    "the carriers" => role.call("campaign", "carriers" => ["cmp"]),
    "the identifiers" => document.merge("identifiers" => []),
    "own parameters" => document.merge("own_parameters" => ["utm_soruce"]),
    "personal data" => document.merge("personal_data" => {"kinds" => []}),
    "the own hosts" => document.merge("own_hosts" => ["other.example"]),
    "exempt kinds" => document.merge("exempt_kinds" => ["ad"]),
    "a rule for an account" =>
      document.merge(
        "rules" => [{"scope" => {"account" => "North"}, "role" => "campaign", "changes" => {"longest" => 3}}]
      ),
    "the dialects" => document.merge("dialects" => [])
  }.each do |what, changed|
    it "says what changes with #{what}" do
      after = Orvant::Convention.new(changed)
      expected =
        entries.filter_map do |entry|
          if codes(entry, demo_convention) != codes(entry, after)
            [
              entry.id,
              codes(entry, demo_convention) - codes(entry, after),
              codes(entry, after) - codes(entry, demo_convention)
            ]
          end
        end
      changes = described_class.new(entries, demo_convention).changes(after)
      expect(changes.map { |one| [one.id, one.gone.sort, one.come.sort] }).to eq(expected)
    end
  end
end
