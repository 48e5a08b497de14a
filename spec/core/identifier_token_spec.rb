# frozen_string_literal: true

require_relative "../spec_helper"

# An identifier's token is recorded literally where it is written in any other way than its network writes it.
RSpec.describe Orvant::Convention::IdentifierToken do
  dialect = ->(network, open, close, *tokens) { {"network" => network, "open" => open, "close" => close, "tokens" => tokens.map { |one| {"token" => one} }} }
  rules = lambda do |identifier, dialects|
    {"name" => "Larder",
     "own_hosts" => ["www.larder.example"],
     "roles" => [{"role" => "source", "carriers" => ["utm_source"]}],
     "channels" => [{"channel" => "All", "when" => [{"field" => "source", "empty" => false}]}],
     "dialects" => dialects,
     "identifiers" => [{"parameter" => "qsid", "kinds" => ["ad"]}.merge(identifier)]}
  end
  spoon = dialect.call("Spoonads", "[[", "]]", "click", "ad.id")
  fork = dialect.call("Forkads", "(=", "=)", "click", "gclick")

  # identifier, dialects => the token as written, or why it is refused
  [
    [{"token" => "click"}, [spoon], "[[click]]"],
    [{"token" => "[[click]]"}, [spoon], "[[click]]"],
    [{"token" => " click "}, [spoon], "[[click]]"],
    [{"token" => "q-[[click]]"}, [spoon], "q-[[click]]"],
    [{"token" => "gclick"}, [spoon, fork], "(=gclick=)"],
    [{"token" => "click", "network" => "Forkads"}, [spoon, fork], "(=click=)"],
    [{"token" => "anything"}, [], "anything"],
    [{"token" => "klick"}, [spoon], /no network offers the token “klick”; there are \[\[click\]\], \[\[ad\.id\]\]/],
    [{"token" => "{{click}}"}, [spoon], /no network offers the token “\{\{click\}\}”/],
    [{"token" => "[[klick]]"}, [spoon], /no network offers/],
    [{"token" => "click"}, [spoon, fork], /a token of Spoonads and of Forkads: say of which network/]
  ].each do |identifier, dialects, expected|
    it "takes #{identifier} for #{expected}" do
      document = rules.call(identifier, dialects)
      next expect { Orvant::Convention.read(document) }.to raise_error(Orvant::Error::UnusableDocument, expected) if expected.is_a?(Regexp)

      expect(Orvant::Convention.read(document).identifiers.first.token).to eq(expected)
    end
  end

  it "writes it so wherever it is offered: as value, and in the rows to upload" do
    convention = Orvant::Convention.read(rules.call({"token" => "click"}, [spoon]))
    link = address("http://www.larder.example/loaf?utm_source=spoonads")
    found, = Orvant::Checks::Param.judge(link, convention, kind: "ad")
    expect([found.code, found.correction, found.remedy.value]).to eq(["param/identifier", "[[click]]", "qsid=[[click]]"])
    ad = Orvant::Fix::AdRows::Ad.new(
      facts: {"network" => "Spoonads", "id" => "1"},
      levels: [{"name" => "ad", "landing" => "http://www.larder.example/loaf", "tail" => "utm_source=spoonads"}],
      from: link.raw,
      to: found.corrected_address
    )
    expect(Orvant::Fix::AdRows.new([ad]).rows.map(&:as_it_should_be)).to eq(["utm_source=spoonads&qsid=[[click]]"])
  end
end
