# frozen_string_literal: true

require "async"

# What hosts are spared: so many requests at once, a pause in between, and rest where they ask for it.
RSpec.describe Orvant::Net::Turn do
  # A clock that moves only while somebody rests.
  def turn(per_host: 2, pause: 0.0)
    limits = Orvant::Net::Limits.usual
    limits.per_host = per_host
    limits.pause = pause
    @clock = 0.0
    @rests = []
    rest = ->(seconds) { (@rests << seconds.round(3)) && (@clock += seconds) }
    described_class.new(limits, -> { @clock }, rest)
  end

  # requests that begin at once => the most that ran together
  {1 => 1, 2 => 2, 3 => 3, 8 => 8}.each do |per_host, most|
    it "lets #{per_host} of ten requests run at once" do
      one = turn(per_host: per_host)
      running = 0
      seen = []
      Sync do |task|
        gate = Async::Condition.new
        requests =
          Array.new(10) do
            task.async do
              one.take do
                seen << (running += 1)
                gate.wait
                running -= 1
              end
            end
          end
        gate.signal && task.yield until requests.all?(&:finished?)
      end
      expect([seen.size, seen.max]).to eq([10, most])
    end
  end

  it "keeps the pause between beginnings, not between an end and a beginning" do
    one = turn(pause: 2.0)
    Sync { 3.times { one.take { @clock += 0.5 } } }
    expect(@rests).to eq([1.5, 1.5])
  end

  it "rests for nobody where no pause is asked for" do
    one = turn
    Sync { 5.times { one.take { @clock += 0.1 } } }
    expect(@rests).to eq([])
  end

  it "holds everybody back for as long as the host asks, the longest counting" do
    one = turn
    one.hold(3)
    one.hold(1)
    Sync { 2.times { one.take { nil } } }
    expect(@rests).to eq([3.0])
  end

  it "keeps the pause after a hold too" do
    one = turn(pause: 1.0)
    one.hold(5)
    Sync { 3.times { one.take { nil } } }
    expect(@rests).to eq([5.0, 1.0, 1.0])
  end

  it "gives its place on when a request fails" do
    one = turn(per_host: 1)
    Sync do
      expect { one.take { raise Orvant::Error::Unreachable, "no" } }.to raise_error(Orvant::Error::Unreachable)
      expect(one.take { :next }).to eq(:next)
    end
  end
end

RSpec.describe Orvant::Net::Door do
  # Hosts share nothing: one that is slow or asks for patience holds back none but its own links.
  it "keeps turns by host, whatever port or letter case an address has" do
    running = Hash.new(0)
    most = Hash.new(0)
    lock = Mutex.new
    server =
      RawServer.new do |request|
        host = request[/^host: ([^:\r]+)/i, 1].downcase
        lock.synchronize { most[host] = [most[host], running[host] += 1].max }
        IO.select(nil, nil, nil, 0.05)
        lock.synchronize { running[host] -= 1 }
        RawServer.page
      end
    links =
      Array.new(24) do |number|
        "http://#{(number % 2).zero? ? "A" : "b"}.example:#{8_000 + number % 3}/#{number}"
      end
    trails = follow(follower({"*.example" => "127.0.0.1:#{server.port}"}, per_host: 2), *links)
    expect(trails.map(&:outcome).tally).to eq("landed" => 24)
    expect(most.values.max).to be <= 2
    expect(most.keys).to contain_exactly("a.example", "b.example")
  ensure
    server&.stop
  end

  # answers in turn => the status that counts, and how often it was asked
  {
    "a body that breaks off" => [[RawServer.page("half", "Content-Length": 999)], 200, 1],
    "no answer at first" => [[:close, RawServer.page], 200, 2],
    "garbage at first" => [["nonsense\r\n\r\n", RawServer.page], 200, 2],
    "busy once, with a date that has passed" => [
      [RawServer.page("", status: "503 Busy", "Retry-After": "Wed, 21 Oct 2015 07:28:00 GMT"), RawServer.page],
      200,
      2
    ],
    "busy for longer than anybody waits" => [[RawServer.page("", status: "429 Slow", "Retry-After": "86400")], 429, 1]
  }.each do |name, (answers, status, asked)|
    it "bears #{name}" do
      left = answers.dup
      server = RawServer.new { |_| left.shift || RawServer.page }
      trail, =
        follow(follower({"a.example" => "127.0.0.1:#{server.port}"}, backoff: 0, seconds: 3), "http://a.example/")
      expect([trail.status, server.requests.size]).to eq([status, asked])
    ensure
      server&.stop
    end
  end
end
