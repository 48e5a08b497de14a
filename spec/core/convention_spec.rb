# frozen_string_literal: true

RSpec.describe Orvant::Convention do
  base = {
    "name" => "Rules",
    "own_hosts" => ["www.skerryline.example"],
    "channels" => [{"channel" => "All", "when" => []}],
    "roles" => [
      {"role" => "source", "carriers" => ["utm_source"]},
      {"role" => "campaign", "carriers" => ["utm_campaign"], "case" => "lower"}
    ]
  }

  # The base with other rules for the campaign.
  campaign = ->(changes) { base.merge("roles" => [base["roles"].first, base["roles"].last.merge(changes)]) }

  describe Orvant::Convention::Expression do
    {
      "[a-z]+" => true,
      "[a-z]{2,5}\\d?" => true,
      "(?:north|south)" => true,
      "v\\d+\\.\\d+" => true,
      "(a+)+" => "within a repetition",
      "(a|b)*c" => "within a repetition",
      "(?=a)b" => "a look-around",
      "(a)\\1" => "a back reference",
      "a*b*c*d*e*" => "repeats in 5 places",
      "[a-" => "cannot be used",
      "a" * 201 => "longer than 200"
    }.each do |source, expected|
      it "#{(expected == true) ? "takes" : "refuses"} #{source[0, 40]}" do
        made =
          begin
            described_class.new(source) && true
          rescue Orvant::Error::UnusableDocument => error
            error.message
          end
        expect(made).to (expected == true) ? eq(true) : include(expected)
      end
    end

    it "answers at once for a text on which a careless expression would run for ever" do
      expect(described_class.new("[a-z]*[a-z]*[a-z]*!").match?("a" * 200)).to be(false)
    end
  end

  describe Orvant::Convention::Segments do
    documents = [
      {"segment" => "month", "date" => {"format" => "yyyy-mm", "from" => "2026-01", "to" => "2026-12"}},
      {"segment" => "market", "values" => %w[north south far-north]},
      {"segment" => "wave", "number" => {"from" => 1, "to" => 40}, "optional" => true},
      {"segment" => "theme", "text" => {"longest" => 20, "words" => 2, "format" => "[a-z-]+"}}
    ]
    let(:segments) { described_class.new(documents, separator: "-") }

    # name, the segments or the one that fails with what stands there
    [
      ["2026-06-north-walks", {"month" => "2026-06", "market" => "north", "theme" => "walks"}],
      [
        "2026-06-far-north-7-day-pass",
        {"month" => "2026-06", "market" => "far-north", "wave" => "7", "theme" => "day-pass"}
      ],
      ["2026-06-south-seals", {"month" => "2026-06", "market" => "south", "theme" => "seals"}],
      ["2025-06-north-walks", %w[month 2025]],
      ["2026-13-north-walks", %w[month 2026]],
      ["2026-06-nroth-walks", %w[market nroth]],
      ["2026-06-north", ["theme", ""]],
      ["2026-06-north-7", ["theme", ""]],
      ["2026-06-north-99-walks", %w[theme 99]],
      ["2026-06-north--walks", ["theme", ""]],
      ["2026-06-north-a-b-c", [nil, "c"]],
      ["", ["month", ""]]
    ].each do |name, expected|
      it "reads #{name.inspect}" do
        match = segments.match(name)
        expect(match.complete? ? match.stretches : [match.segment&.name, match.text]).to eq(expected)
      end
    end

    {
      "2026-06-soutj-walks" => "2026-06-south-walks",
      "-2026-06-north-walks-" => "2026-06-north-walks",
      "2026-13-north-walks" => nil
    }.each do |name, meant|
      it "mends #{name} to #{meant.inspect}" do
        expect(segments.mend(name)).to eq(meant)
      end
    end

    it "makes examples that fit" do
      expect(segments.examples).not_to be_empty
      expect(segments.examples).to all(satisfy { |name| segments.match(name).complete? })
    end
  end

  describe Orvant::Convention::Nearest do
    values = %w[email paid-search paid-social partner print walks-2026 walks-2027]
    {
      "emial" => "email",
      "e-mail" => "email",
      "payed-search" => "paid-search",
      "paid-socail" => "paid-social",
      "walks-2028" => nil,
      "walk-2026" => "walks-2026",
      "prin" => "print",
      "flow" => nil,
      "p" => nil
    }.each do |text, meant|
      it "takes #{text} for #{meant.inspect}" do
        expect(described_class.new(values).of(text)).to eq(meant)
      end
    end

    it "finds one among twenty thousand" do
      many = Array.new(20_000) { |number| "name-#{number.to_s(26).tr("0-9", "q-z")}-of-a-theme" }
      expect(described_class.new([*many, "harbour-lights-evening"]).of("harbuor-lights-evenng")).to eq(
        "harbour-lights-evening"
      )
    end
  end

  describe "a document that contradicts itself" do
    {
      "two roles of one name" => [base.merge("roles" => [base["roles"].first] * 2), "described twice"],
      "a carrier of two roles" => [campaign.call("carriers" => ["utm_source"]), "carries two roles"],
      "a cyclic alias" => [
        campaign.call(
          "vocabulary" => {
            "values" => [{"value" => "a", "aliases" => ["b"]}, {"value" => "b", "aliases" => ["a"]}]
          }
        ),
        "a value of its own"
      ],
      "an alias of two values" => [
        campaign.call(
          "vocabulary" => {
            "values" => [{"value" => "a", "aliases" => ["x"]}, {"value" => "b", "aliases" => ["x"]}]
          }
        ),
        "alias of both"
      ],
      "a value that its own rule refuses" => [
        campaign.call("vocabulary" => {"values" => [{"value" => "June"}]}),
        "breaks the rule of lower case"
      ],
      "a vocabulary that leaves nothing" => [
        campaign.call("required" => "always", "vocabulary" => {"closed" => true, "values" => []}),
        "no link could be right"
      ],
      "a number between nothing" => [
        campaign.call("segments" => [{"segment" => "n", "number" => {"from" => 5, "to" => 2}}]),
        "No name can fit"
      ],
      "a word that the letter case forbids" => [
        campaign.call("segments" => [{"segment" => "w", "word" => "SKL"}]),
        "breaks the rule of lower case"
      ],
      "an expression that could run for ever" => [
        campaign.call("segments" => [{"segment" => "t", "text" => {"format" => "(a+)+"}}]),
        "within a repetition"
      ],
      "a pair that is in no vocabulary" => [
        base.merge(
          "roles" => [
            base["roles"].first.merge("vocabulary" => {"closed" => true, "values" => [{"value" => "a"}]}),
            base["roles"].last
          ],
          "pairs" => [{"source" => "z", "medium" => "m"}]
        ),
        "could never be used"
      ],
      "two rules for one scope" => [
        base.merge(
          "rules" => [
            {"scope" => {"kind" => "ad"}, "role" => "campaign", "changes" => {"longest" => 5}},
            {"scope" => {"kind" => "ad"}, "role" => "campaign", "changes" => {"longest" => 9}}
          ]
        ),
        "contradicts rule 1"
      ],
      "a rule for no role" => [
        base.merge("rules" => [{"scope" => {"kind" => "ad"}, "role" => "x", "changes" => {"longest" => 5}}]),
        "is no role"
      ]
    }.each do |what, (document, reason)|
      it "is refused for #{what}, with its path" do
        expect { described_class.read(document) }.to raise_error(
          Orvant::Error::UnusableDocument,
          %r{\A/\w+.*#{Regexp.escape(reason)}}m
        )
      end
    end

    it "takes a vocabulary of 20,000 values" do
      values = Array.new(20_000) { |number| {"value" => "name-#{number}"} }
      role = {
        "role" => "campaign",
        "carriers" => ["utm_campaign"],
        "vocabulary" => {
          "closed" => true,
          "values" => values
        }
      }
      convention = described_class.read(base.merge("roles" => [base["roles"].first, role]))
      found = Orvant::Checks::Param.judge(address("http://www.skerryline.example/?utm_campaign=nmae-19999"), convention)
      expect(found.map { |one| [one.code, one.correction] }).to eq([%w[param/near-miss name-19999]])
    end
  end

  describe "rules for a scope" do
    rules = [
      {"scope" => {"kind" => "ad"}, "role" => "campaign", "changes" => {"longest" => 10}},
      {"scope" => {"account" => "North"}, "role" => "campaign", "changes" => {"longest" => 20}},
      {"scope" => {"host" => "*.skerryline.example"}, "role" => "campaign", "changes" => {"longest" => 30}},
      {"scope" => {"host" => "www.skerryline.example"}, "role" => "campaign", "changes" => {"longest" => 40}},
      {
        "scope" => {
          "kind" => "ad",
          "account" => "North"
        },
        "role" => "campaign",
        "changes" => {
          "longest" => 50
        },
        "why" => "long names"
      }
    ]
    let(:convention) { described_class.read(base.merge("rules" => rules)) }

    [
      [{kind: "message", host: "other.example"}, nil],
      [{kind: "ad", host: "other.example"}, 10],
      [{kind: "message", account: "north", host: "other.example"}, 20],
      [{kind: "message", host: "x.skerryline.example"}, 30],
      [{kind: "ad", host: "www.skerryline.example"}, 40],
      [{kind: "ad", account: "North", host: "www.skerryline.example"}, 50]
    ].each do |scope, longest|
      it "let the most specific win for #{scope}" do
        book = convention.rules_for(**scope)
        expect(book.role("campaign").longest).to eq(longest)
        expect(book.explain.last["rules"].last&.dig("changes", "longest")).to eq(longest)
      end
    end
  end

  describe Orvant::Convention::Learning do
    seen =
      [
        ["island-letter", "email", 9],
        ["Island-Letter", "e-mail", 2],
        ["islandletter", "email", 1],
        ["lanternfind", "paid-search", 6],
        ["poster", "print", 1]
      ].map do |source, medium, links|
        described_class::Seen.new(
          values: {
            "utm_source" => source,
            "utm_medium" => medium
          },
          links: links,
          sessions: links * 10
        )
      end
    seen +=
      %w[
        2026-06-north-walks
        2026-07-north-seals
        2026-07-south-walks
        2026-08-north-day
        2026-08-south-lights
        2026-09-north-x
        2026-10-south-y
        Other
      ].map { |name| described_class::Seen.new(values: {"utm_campaign" => name}, links: 2, sessions: 0) }
    let(:learning) { described_class.new(seen) }

    def proposal(id) = learning.proposals.find { |one| one.id == id }

    it "proposes the case that most write, with what it would find fault with" do
      expect(proposal("source case").to_h).to include(
        "proposed" => "lower",
        "support" => {
          "links" => 17,
          "sessions" => 170,
          "share" => 0.895
        },
        "flags" => {
          "links" => 2,
          "values" => ["Island-Letter"]
        }
      )
    end

    it "proposes the likeliest spelling as the value and the rest as aliases" do
      expect(proposal("source vocabulary").proposed).to eq(
        "closed" => true,
        "values" => [
          {"value" => "island-letter", "aliases" => %w[Island-Letter islandletter]},
          {"value" => "lanternfind"}
        ]
      )
    end

    it "infers what stands in each part of a name" do
      expect(proposal("campaign segments").proposed.map { |one| one.keys.last }).to eq(%w[date values text])
      expect(proposal("campaign segments").flags).to eq("links" => 2, "values" => ["Other"])
    end

    it "proposes the pairs that several links carry, as they were meant" do
      expect(proposal("pairs").proposed).to eq(
        [{"source" => "island-letter", "medium" => "email"}, {"source" => "lanternfind", "medium" => "paid-search"}]
      )
    end

    it "makes a whole convention that can be read, and judges by it" do
      convention = Orvant::Convention.read(learning.document(hosts: ["www.skerryline.example"]))
      found =
        Orvant::Checks::Param.judge(
          address(
            "http://www.skerryline.example/?utm_source=Island-Letter&utm_medium=email&utm_campaign=2026-06-nroth-walks"
          ),
          convention
        )
      expect(found.map(&:code)).to eq(%w[param/case param/pattern])
    end

    it "keeps what a convention knows already when proposals are put into it" do
      document =
        base.merge(
          "roles" => [
            base["roles"].first.merge(
              "vocabulary" => {
                "values" => [{"value" => "letter", "aliases" => ["islandletter"], "owner" => "Desk"}]
              }
            )
          ]
        )
      values =
        described_class.apply(document, [proposal("source vocabulary").to_h])["roles"].first["vocabulary"]["values"]
      expect(values).to eq(
        [
          {"value" => "letter", "aliases" => ["islandletter"], "owner" => "Desk"},
          {"value" => "island-letter", "aliases" => ["Island-Letter"]},
          {"value" => "lanternfind"}
        ]
      )
    end
  end

  it "says what differs between two versions, rule by rule" do
    after =
      base.merge(
        "roles" => [
          base["roles"].first.merge("vocabulary" => {"values" => [{"value" => "letter", "owner" => "Desk"}]}),
          base["roles"].last.merge("case" => "upper")
        ],
        "own_hosts" => %w[www.skerryline.example new.example],
        "pairs" => [{"source" => "letter", "medium" => "email"}]
      )
    differences = described_class::Comparison.of(base, after).map { |one| [one.area, one.what, one.before, one.after] }
    expect(differences).to contain_exactly(
      ["role source", "value “letter”", nil, "owner Desk"],
      ["role campaign", "case", "lower", "upper"],
      ["pairs", "source letter, medium email", nil, "permitted"],
      ["own_hosts", "new.example", nil, "listed"]
    )
    expect(described_class::Comparison.of(after, after)).to eq([])
  end

  describe Orvant::Convention::VocabularyTable do
    it "reads what it writes" do
      vocabulary = demo_convention.role("source").vocabulary
      text = Orvant::Export::CSVTable.write(described_class::COLUMNS, described_class.rows(vocabulary))
      expect(described_class.read(text).map { |value| [value["value"], value.fetch("aliases", [])] }).to eq(
        vocabulary.entries.map { |entry| [entry.value, entry.aliases] }
      )
      pairs = Orvant::Export::CSVTable.write(described_class::PAIR_COLUMNS, described_class.pair_rows(demo_convention))
      expect(described_class.read_pairs(pairs).size).to eq(demo_convention.pairs.size)
    end

    {
      "" => /no column “value”/,
      "name;x\na;b" => /no column “value”/,
      "value,meaning\n\"a" => /cannot be read/,
      "value\n\xFF".b => /not readable/
    }.each do |text, reason|
      it "says of #{text.inspect} what is wrong" do
        expect { described_class.read(text) }.to raise_error(Orvant::Error::UnusableTable, reason)
      end
    end
  end

  it "shows examples of every rule that its own checks bear out" do
    demo_convention.roles.each do |role|
      examples = Orvant::Checks::Param::Examples.new(demo_convention, role)
      expect(examples.good).not_to be_empty
      expect(examples.bad.map(&:code)).to eq(examples.bad.map(&:code).uniq)
      expect(Orvant::Convention::InWords.new(role).sentences.size).to be >= 2
    end
  end
end
