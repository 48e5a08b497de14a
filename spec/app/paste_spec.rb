# frozen_string_literal: true

require_relative "../app_helper"
require_relative "../support/core/pasting"

# Whatever is offered is applied, and all is judged again: the finding is gone, nothing new has come, and nothing of
# the link but the fault has changed.
RSpec.describe "What is offered to paste" do
  many = ENV["ORVANT_LONG"] ? 5_000 : 300
  link = Struct.new(:address, :kind, :judged_sightings)

  def marks(found) = found.map { |one| [one.code, one.code.start_with?("trail/") ? one.root : one.parameter] }

  # Everything that a sweep judges of one link.
  define_method(:judged) do |one, address, kind|
    sighting = Orvant::Inventory::Sighting.new(kind: kind, facts: (kind == "ad") ? {"network" => "Spoonads"} : {})
    judge = LinkJudge.new(one.convention, one.method(:follow))
    allow_any_instance_of(Orvant::Trail::Nowhere).to receive(:call).and_return(nil)
    judge.call(link.new(address, kind, [sighting]), [one.follow(address)]).findings
  end

  # The value in the place of the one that it corrects.
  def applied(one, address, kind, finding)
    built = Orvant::Checks::Param::LinkSubject.new(Orvant::Address.parse(address), one.convention, kind: kind).address
    pair = built.pairs.find { |other| other.name == finding.parameter } or return
    value = finding.correction
    return built.with(names: {pair => value}).raw if finding.code == "param/misspelled-name"

    built.with(edits: {pair => value.include?("[[") ? Orvant::Address::Pair::Written.new(value) : value}).raw
  end

  # Host, a parameter that is no affair of the rules, and a route.
  def others(address)
    [Orvant::Address.new(address).host, address[/[?&]size=([^&#?;]+)(?=&|#|\z)/, 1], address[%r{#(/route/a)\z}, 1]]
  end

  it "passes when it is pasted: addresses, values and rows, on #{many} seeded links over seeded rules and ways" do
    offered = Hash.new(0)
    many.times do |seed|
      one = Pasting.new(seed)
      kind, good = one.link
      host = one.any(%w[www.larder.example larder.example s.larder.example])
      good = good.sub("www.larder.example", host)
      expect(marks(judged(one, good, kind).select { |found| found.code.start_with?("param/") })).to eq([]), "seed #{seed}: #{good}"

      text = one.spoilt(good)
      found = judged(one, text, kind)
      found.each do |finding|
        said = "seed #{seed}, #{kind} #{text}: #{finding.code} #{finding.parameter} offers"
        if finding.corrected_address
          offered[:address] += 1
          again = judged(one, finding.corrected_address, kind)
          expect(marks(again)).to eq([]), "#{said} #{finding.corrected_address}, with #{again.map(&:message)}" if finding.code.start_with?("trail/")
          expect(marks(again).grep(%r{param/})).to eq([]), "#{said} #{finding.corrected_address}, with #{again.map(&:message)}"
          expect(marks(again) - marks(found)).to eq([]), "#{said} #{finding.corrected_address}, with #{again.map(&:message)}"
          expect(finding.corrected_address).not_to match(/ada(?:@|%40)/), said
          if finding.code.start_with?("param/")
            others(text).zip(others(finding.corrected_address)) { |before, after| expect(after).to eq(before || after), "#{said} #{finding.corrected_address}" }
          end
        end
        next unless finding.correction && finding.parameter && (value = applied(one, text, kind, finding))
        # Exchanged values are exchanged together.
        next if finding.code == "param/wrong-role"

        offered[:value] += 1
        again = Orvant::Checks::Param.judge(Orvant::Address.new(value), one.convention, kind: kind)
        before = Orvant::Checks::Param.judge(Orvant::Address.new(text), one.convention, kind: kind)
        # Under its right name a value is judged as under the wrong one.
        new = again.map(&:code) - before.map(&:code)
        new = marks(again) - marks(before) unless finding.code == "param/misspelled-name"
        expect(new).to eq([]), "#{said} #{finding.correction}, with #{again.map(&:message)}"
      end
    end
    expect(offered[:address]).to be > many / 10
    expect(offered[:value]).to be > many / 10
  end

  it "passes when rows are uploaded to the network: the click opens what was offered" do
    rows = 0
    (many / 2).times do |seed|
      one = Pasting.new(20_000 + seed)
      good = one.link.last until good.to_s.include?("qsid=")
      landing, tail = one.spoilt(good.sub(/#.*/, "")).split("?", 2)
      next unless tail && landing.match?(%r{\Ahttp://www\.larder\.example/\w+\z})

      levels = [{"name" => "account", "tail" => tail}, {"name" => "ad", "landing" => landing, "pattern" => one.any(["", "[[land]]"])}]
      opened = lambda do |said|
        levels_now = Orvant::Inventory::Level.of_documents(said)
        Orvant::Address.new(Orvant::Inventory::ClickAddress.new(levels_now, one.convention.dialect("Spoonads"), values: {"click" => "[[click]]"}).to_s)
      end
      text = "#{landing}?#{tail}"
      offered = judged(one, text, "ad").find { |finding| finding.corrected_address && finding.code.start_with?("param/") } or next
      ad = Orvant::Fix::AdRows::Ad.new(facts: {"network" => "Spoonads", "account" => "Larder", "id" => "1"}, levels: levels, from: text, to: offered.corrected_address, opens: opened)
      offers = Orvant::Fix::AdRows.new([ad]).rows
      next if offers.empty?

      changed = offers.each_with_object(levels.map(&:dup)) do |row, all|
        all.find { |level| level["name"] == row.level }[row.part] = row.as_it_should_be
        rows += 1
      end
      pairs = [opened.call(changed), Orvant::Address.new(offered.corrected_address)].map { |address| address.pairs.map { |pair| [pair.name, pair.value] }.sort }
      expect(pairs.first).to eq(pairs.last), "seed #{seed}: #{levels} becomes #{changed}, offered was #{offered.corrected_address}"
    end
    expect(rows).to be > many / 20
  end

  it "mends a server and finds nothing there any more, for each that is told to hand the query on" do
    mended = 0
    (many / 3).times do |seed|
      one = Pasting.new(10_000 + seed)
      kind, good = one.link
      address = good.sub("www.larder.example", one.any(%w[larder.example s.larder.example]))
      # A server may hide what the next one does.
      done = []
      while (found = judged(one, address, kind)).any?
        hosts = found.select { |finding| finding.remedy.at == "server" }.map { |finding| finding.place["server"] }.uniq
        expect(hosts - done).not_to be_empty, "seed #{seed}: #{address}, #{found.map(&:message)}"
        expect(hosts & done).to eq([]), "seed #{seed}: #{address}"
        hosts.each { |host| one.mend(host) }
        done |= hosts
        mended += 1
      end
    end
    expect(mended).to be > many / 10
  end

  it "passes on every failing example" do
    families = {"param" => Orvant::Checks::Param, "trail" => Orvant::Checks::Trail}
    families.each do |name, family|
      # Between own pages other rules hold, and what shows over many links has no address of its own.
      checks = Orvant::Check.family(name).reject { |check| check == Orvant::Checks::Param::Internal || (check.failing.is_a?(Array) && name == "param") }
      checks.each do |check|
        family.sample(check.failing).select(&:corrected_address).each do |finding|
          address = Orvant::Address.new(finding.corrected_address)
          kind = (name == "param") ? Orvant::Checks::Param::Sample.entry(check.failing).kind : "message"
          again = Orvant::Checks::Param.judge(address, Orvant::Checks::Param::Sample.convention, kind: kind)
          expect(marks(again)).to eq([]), "#{check.code} offers #{address}"
        end
      end
    end
  end
end
