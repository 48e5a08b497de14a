# frozen_string_literal: true

RSpec.describe Orvant::Check do
  families = {
    "param" => Orvant::Checks::Param,
    "trail" => Orvant::Checks::Trail,
    "tag" => Orvant::Checks::Tag,
    "page" => Orvant::Checks::Page,
    "journey" => Orvant::Checks::Journey,
    "traffic" => Orvant::Checks::Traffic
  }

  described_class.all.each do |check|
    describe check.code do
      let(:family) { families.fetch(check.code[%r{\A[^/]+}]) }

      it "fires on its failing example and stays silent on its passing one" do
        expect(family.sample(check.failing).map(&:code)).to include(check.code)
        expect(family.sample(check.passing).map(&:code)).not_to include(check.code)
      end

      it "says what is wrong in one sentence, with evidence, a root and a remedy" do
        finding = family.sample(check.failing).find { |one| one.code == check.code }
        expect(finding.message).to match(/\A[^\n]{20,400}[.”]\z/)
        expect(Orvant::Finding::WEIGHTS).to include(finding.weight)
        expect(finding.evidence).to be_any.and(all(match(/\S/)))
        # Where a finding on a link is the root, the work is that finding's.
        expect(finding.root).to start_with(check.code).or(eq("r1"))
        expect(finding.remedy&.action).to match(/\A[A-Z].+[.”]\z/).or((finding.root == "r1") ? be_nil : match(/./))
      end

      it "stands in a file of its own, named after its code" do
        expect(File).to exist(File.join(ROOT, "lib/orvant/checks/#{check.code.tr("-", "_")}.rb"))
      end
    end
  end

  it "is documented: docs/checks.md is what the classes say" do
    require_relative "../../app/cli/checks_document"
    expect(File.read(File.join(ROOT, "docs/checks.md"))).to eq(ChecksDocument.new.to_s),
      "run: bin/orvant checks > docs/checks.md"
  end
end

RSpec.describe "The documents" do
  {
    {"name" => "x"} => /top level/,
    {
      "name" => "x",
      "own_hosts" => [],
      "roles" => [{"role" => "source", "carriers" => []}],
      "channels" => [{"channel" => "a", "when" => []}]
    } =>
      %r{/roles/0/carriers},
    {
      "name" => "x",
      "own_hosts" => [],
      "roles" => [{"role" => "Bad Role", "carriers" => ["a"]}],
      "channels" => [{"channel" => "a", "when" => []}]
    } =>
      %r{/roles/0/role},
    {
      "name" => "x",
      "own_hosts" => [],
      "roles" => [{"role" => "source", "carriers" => ["a"]}],
      "channels" => [{"channel" => "a", "when" => [{"field" => "source"}]}]
    } =>
      %r{/channels/0/when/0},
    {
      "name" => "x",
      "own_hosts" => [],
      "roles" => [{"role" => "source", "carriers" => ["a"]}],
      "channels" => [{"channel" => "a", "when" => []}],
      "extra" => 1
    } =>
      /extra/
  }.each do |document, reason|
    it "names path and reason of a convention's fault: #{reason.source}" do
      expect { Orvant::Convention.read(document) }.to raise_error(Orvant::Error::UnusableDocument, reason)
    end
  end

  {
    "/channels/0/when/1" => "the second condition of the first channel rule (“Email”)", "/roles/1/longest" => "“longest” of the second role (“medium”)", "/roles/11" => "the 12th role",
    "/odd/3/x~1y" => "“x/y” of the fourth item of “odd”", "/name" => nil, "" => nil
  }.each do |pointer, words|
    it "calls #{pointer.inspect} #{words.inspect}" do
      document = {"channels" => [{"channel" => "Email", "when" => []}], "roles" => [{"role" => "source"}, {"role" => "medium"}]}
      expect(Orvant::PlaceInWords.of(pointer, document)).to eq(words)
    end
  end

  it "refuses a rehearsal whose step does two things at once" do
    expect {
      Orvant::Rehearsal.read("rehearsal" => "x", "title" => "X", "steps" => [{"click" => "a", "reload" => true}])
    }.to raise_error(Orvant::Error::UnusableDocument, %r{/steps/0})
  end

  Dir[File.join(ROOT, "demo/data/rehearsals/*.json")].each do |file|
    it "reads the demo's #{File.basename(file)}" do
      rehearsal = Orvant::Rehearsal.read(File.read(file))
      expect(rehearsal.steps.map(&:does)).to start_with("open")
      expect(rehearsal.expectations.map(&:times)).to start_with(1, 1)
    end
  end
end
