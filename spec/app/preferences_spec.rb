# frozen_string_literal: true

require_relative "../app_helper"

# How a workspace's sites are asked, and what cannot be.
RSpec.describe Preferences do
  it "keeps what differs from the usual, and asks hosts at their own pace with the contact in its name" do
    kept = described_class.new({}).changed("pause" => 0.5, "per_host" => 8, "hosts" => {"slow.test" => {"pause" => 3, "per_host" => 1}}, "contact" => "audits@example.test")
    expect(kept.keys).to contain_exactly("pause", "hosts", "contact")
    limits = described_class.new(kept).limits
    expect([limits.pause, limits.of("slow.test").pause, limits.of("slow.test").per_host, limits.of("other.test").per_host]).to eq([0.5, 3, 1, 8])
    expect(Orvant::Net::Visitor.signed("Mozilla/5.0 #{Orvant::Net::Visitor::ORVANT}", limits.contact)).to end_with("(audit of marketing links; audits@example.test)")
  end

  # what is wanted => what is said
  {{"pause" => 61} => "between 0 and 60 seconds", {"pause" => "1"} => "between 0 and 60", {"per_host" => 0} => "between 1 and 64", {"keep_days" => 0} => "between 1 and 3650 days", {"patience" => 1e9} => "between 1 and 120",
   {"time_zone" => "Mars/Base"} => "no time zone", {"contact" => "a\r\nX: y"} => "one line", {"contact" => "a) b"} => "no brackets", {"visitors" => []} => "at least one", {"visitors" => ["tablet!"]} => "neither desktop nor phone",
   {"hosts" => {"a b" => {}}} => "a b", {"hosts" => {"a.test" => {"speed" => 1}}} => "no speed"}.each do |wish, said|
    it "refuses #{wish} in words" do
      expect { described_class.new({}).changed(wish) }.to raise_error(Orvant::Error, a_string_including(said))
    end
  end

  it "is sent with every request for the workspace" do
    seen = Queue.new
    server = RawServer.new { |request| seen << request[/^user-agent: (.*?)\r$/i, 1] and RawServer.page("x") }
    door = Orvant::Net::Door.new(guard: Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new("*.test" => "127.0.0.1:#{server.port}")), limits: described_class.new({"contact" => "audits@example.test"}).limits)
    Orvant::Trail::Follower.new(door).follow_all(["http://a.test/"].method(:shift)) { |*| nil }
    expect(seen.pop).to include("; audits@example.test)")
  ensure
    server.stop
  end
end
