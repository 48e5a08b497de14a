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
    expect(methods.tally.select { |_, places| places > 1 }.keys).to eq(%i[clean?])
  end
end
