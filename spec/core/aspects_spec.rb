# frozen_string_literal: true

# Verdicts are remembered by what checks say that they look at.
RSpec.describe Orvant::Checks::Param::Panel do
  before(:all) { Orvant::Check.all } # The checks below are none of the family's.

  # A check on the letter case of the path, which none of the family looks at.
  def check_on_path(*declared)
    Class.new(Orvant::Check) do
      describes "param/spec-path", weight: "untidy", why: "", fails: "", passes: ""
      reads(*declared)
      define_method(:findings) { subject.path.match?(/[A-Z]/) ? [finding("capitals", root: "path")] : [] }
    end
  end

  def judged(panel, path)
    Orvant::Checks::Param.judge(Orvant::Address.parse("http://www.skerryline.example/#{path}?utm_source=island-letter&utm_medium=email"), Orvant::Checks::Param::Sample.convention, kind: "message", panel: panel).map(&:code)
  end

  it "finds what a new check finds, whatever links with the same parameters came before" do
    panel = described_class.new(described_class.usual.checks + [check_on_path(:path)])
    expect(%w[day-pass Day-Pass day-pass Walks].map { |path| judged(panel, path) }).to eq([[], ["param/spec-path"], [], ["param/spec-path"]])
    expect(judged(described_class.usual, "Day-Pass")).to eq([])
  end

  it "refuses what a check has not declared, and says what to declare" do
    expect { judged(described_class.new([check_on_path(:values)]), "day-pass") }.to raise_error(NoMethodError, /add :path to what it `reads`/)
    expect { check_on_path(:colour).then { |check| described_class.new([check]) } }.to raise_error(ArgumentError, /no side “colour”/)
  end

  it "opens each side by methods that a link has" do
    names = Orvant::Checks::Param::Aspect::ALL.values.flat_map(&:names) + Orvant::Checks::Param::Aspect::ALWAYS
    link = Orvant::Checks::Param::LinkSubject
    expect(names.reject { |name| link.part_with(name) || link.public_method_defined?(name) }).to eq([])
  end

  it "finds each of them in one place alone" do
    parts = Orvant::Checks::Param::LinkSubject::PARTS.values
    methods = [Orvant::Checks::Param::LinkSubject, *parts].flat_map { |part| part.public_instance_methods(false) }
    expect(methods.tally.select { |_, places| places > 1 }).to eq({})
  end

  describe "memory" do
    # One made up for each side: what of it is odd is found.
    odd = {
      build: ->(link) { link.misbuilt&.seen&.raw&.length&.odd? },
      faults: ->(link) { link.readings.sum { |one| one.faults.size }.odd? || link.as_written["source"].to_s.length.odd? },
      values: ->(link) { link.readings_of("campaign").any? { |one| one.value.length.odd? } || link.occurrences("click_no").size.odd? },
      required: ->(link) { link.missing_roles.size.odd? || link.only_value("medium").to_s.length.odd? },
      names: ->(link) { link.foreign.keys.sum.odd? || link.misnamed.size.odd? },
      parts: ->(link) { link.personal_parts.values.sum { |hit| hit.text.length }.odd? || link.part_tokens.size.odd? || link.path_carrier(link.rules.role("source")) },
      identifiers: ->(link) { link.identifiers.size.odd? || link.identifiers.any? { |one| link.pairs_for(one).any? { |pair| pair.raw.length.odd? } } },
      place: ->(link) { link.internal.sum { |one| one.page.raw.length }.odd? || link.campaign_names.size.odd? },
      lost: ->(link) { link.robbed.to_h.to_s.length.odd? },
      network: ->(link) { link.network == "Brightbuoy" },
      host: ->(link) { link.host.length.odd? },
      path: ->(link) { link.path.length.odd? },
      address: ->(link) { link.seen.raw.length.odd? }
    }
    let(:panel) {
      made_up = odd.map { |side, found|
        Class.new(Orvant::Check) do
          describes "param/spec-#{side}", weight: "untidy", why: "", fails: "", passes: ""
          reads side
          define_method(:findings) { found.call(subject) ? [finding("odd", root: "odd")] : [] }
        end
      }
      described_class.new(described_class.usual.checks + made_up)
    }
    random = Random.new(37)
    pick = ->(*all) { all.sample(random: random) }
    links = Array.new(800) { |number|
      network = pick.call("Brightbuoy", "Tidepost", nil, nil)
      pairs = [pick.call("utm_source=island-letter", "utm_source=brightbuoy", "utm_source=Tidepost", "utm_soruce=tidepost", "utm_source=", nil), pick.call("utm_medium=email", "utm_medium=paid-search", "utm_medium=paid-social", "utm_medium=Email", nil),
        pick.call("utm_campaign=walks", "utm_campaign=walks-2026", "utm_campaign=Walks%202026", "utm_campaign=w&utm_campaign=v", "campaign=walks", nil), pick.call("click_no=[*click*]", "click_no=77", "clickno=1", "click_no=", nil), pick.call("ref=9", "ref=anna@isle.example", "x=%7Bad%7D", nil, nil)].compact.shuffle(random: random)
      address = "http://#{pick.call("www.skerryline.example", "shop.skerryline.example", "other.example")}/#{pick.call("", "walks", "Walks/anna@isle.example", "w;utm_source=x", "{page}")}#{pick.call("?", "?", "?", "&")}#{pairs.join(pick.call("&", "&", "&", "&amp;", "?"))}#{pick.call("", "", "#top", "#a?utm_medium=email", "#anna@isle.example")}"
      kind = pick.call("ad", "message", "page", "print")
      facts = {"network" => network, "lost" => pick.call("medium", nil, nil), "campaign" => pick.call("Walks", nil)}.compact
      page = (kind == "page") ? pick.call("http://www.skerryline.example/", "http://www.skerryline.example/ab", "http://www.isleguide.example/x") : nil
      Orvant::Checks::Param::Entry.new(address: Orvant::Address.parse(address), kind: kind, id: number, sightings: [Orvant::Inventory::Sighting.new(kind: kind, facts: facts, page: page && Orvant::Address.parse(page))])
    }
    let(:rules) { -> { Orvant::Convention.read(File.read(File.join(CoreValues::DEMO, "convention.json"))) } }

    def found(entries, panel, rules = nil)
      rules ||= self.rules.call
      entries.to_h do |entry|
        found = Orvant::Checks::Param.judge(entry.address, rules, kind: entry.kind, sightings: entry.sightings, panel: panel)
        [entry.object_id, found.map { |one| [one.code, one.weight, one.message, one.corrected_address] }]
      end
    end

    it "answers as if nothing were remembered, in whatever order links come" do
      there = found(links, panel)
      expect(found(links.reverse, panel)).to eq(there)
      allow_any_instance_of(Orvant::Memory).to receive(:fetch) { |_, &work| work.call }
      expect(found(links, panel)).to eq(there)
      expect(there.values.flatten(1).map(&:first).uniq).to include(*odd.keys.map { |side| "param/spec-#{side}" })
      expect(there.values.count(&:empty?)).to be < links.size
    end

    it "says at a glance what is judged" do
      judging, glancing = rules.call, rules.call
      judged = found(links, described_class.usual, judging).transform_values { |all| all.map { |one| one.first(2) } }
      expect(links.to_h { |entry| [entry.object_id, Orvant::Checks::Param.verdict(entry, glancing)] }).to eq(judged)
      expect(links.to_h { |entry| [entry.object_id, Orvant::Checks::Param.verdict(entry, judging)] }).to eq(judged)
    end

    it "says of a change of rules what judging before and after says" do
      document = -> { JSON.parse(File.read(File.join(CoreValues::DEMO, "convention.json"))) }
      role = ->(name, document) { document["roles"].find { |one| one["role"] == name } }
      judged = ->(document) {
        found(links, described_class.usual, Orvant::Convention.new(document)).values.map { |all| [all.map(&:first), Orvant::Finding::WEIGHTS.find { |weight| all.any? { |one| one[1] == weight } }.to_s] }
      }
      before = judged.call(document.call)
      preview = Orvant::Checks::Param::Preview.new(links, Orvant::Convention.new(document.call))
      expect(preview.changes(Orvant::Convention.new(document.call))).to eq([])
      [
        ->(one) { role.call("campaign", one)["longest"] = 6 },
        ->(one) { role.call("campaign", one)["vocabulary"] = {"closed" => true, "values" => [{"value" => "walks"}]} },
        ->(one) { role.call("source", one)["vocabulary"]["values"].reject! { |entry| entry["value"] == "tidepost" } },
        ->(one) { one["pairs"] = [{"source" => "tidepost", "medium" => "email"}] },
        ->(one) { (one["rules"] ||= []) << {"scope" => {"network" => "Brightbuoy"}, "role" => "campaign", "changes" => {"longest" => 2}, "why" => ""} },
        ->(one) { one["dialects"] = [] },
        ->(one) { one["personal_data"] = {"parameters" => ["ref"]} },
        ->(one) { one["channels"] = one["channels"].first(1) }
      ].each do |change|
        changed = document.call.tap(&change)
        after = judged.call(changed)
        expect(preview.changes(Orvant::Convention.new(changed)).map(&:to_a)).to eq(before.zip(after).each_with_index.filter_map { |((was, first), (is, last)), id|
          [id, first, last, was - is, is - was] unless [was.sort, first] == [is.sort, last]
        })
      end
    end
  end
end
