# frozen_string_literal: true

require_relative "../app_helper"

# What a signature reads is shown while it is written: by the reader that sweeps use, of whatever is pasted.
RSpec.describe SignatureTrial do
  signature = {"tag" => "gull", "name" => "Gull", "purpose" => "analytics", "markup" => [], "wire" => [{"host" => "in.gull.test", "path" => "/c*"}], "list" => "hits",
               "fields" => {"event" => "e", "account" => "id", "value" => %w[sum amount]}, "events" => {"page_view" => ["view"], "conversion" => ["sold"]}}

  def read(signature, *requests) = described_class.new(signature, requests).call

  it "reads every signal of a request, and counts those that are another's" do
    both = {"address" => "http://in.gull.test/collect?id=SK", "type" => "application/json", "body" => JSON.generate("hits" => [{"e" => "view"}, {"e" => "sold", "amount" => 48}])}
    answer = read(signature, both, {"address" => "http://www.gull.test/"}, {"address" => "::"}, {"address" => "http://in.gull.test/c?e=later"})
    expect(answer.slice("problem", "others")).to eq("problem" => nil, "others" => 2)
    expect(answer["read"].map { |one| one["signals"].map { |signal| signal.values_at("account", "event", "kind", "values") } }).to eq(
      [[["SK", "view", "page_view", {}], ["SK", "sold", "conversion", {"value" => "48"}]], [[nil, "later", "other", {}]]]
    )
  end

  it "says what a body is that cannot be read, and why a document is no signature" do
    packed = {"address" => "http://in.gull.test/c", "type" => "application/octet-stream", "body" => "\u0000\u0001"}
    expect(read(signature, packed)["read"].flat_map { |one| one["signals"].map { |signal| signal["kind"] } }).to eq(["unreadable"])
    expect(read(signature.except("wire"))).to include("problem" => /wire/, "read" => [])
    expect(read({})["problem"]).to match(/\S/)
  end
end
