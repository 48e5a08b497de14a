# frozen_string_literal: true

require "ferrum"

# What decides whether a document is a window's: never how fast one message is beside another.
RSpec.describe Orvant::Browser::Windows do
  # Stands for the browser's own session: what it knows of targets, and what it says only when it is asked.
  def session(targets: [], late: [], mute: false)
    Class.new do
      define_method(:subscriber) { @subscriber ||= Ferrum::Client::Subscriber.new }
      define_method(:on) { |event, &told| subscriber.on(event, &told) }
      define_method(:tell) { |id, type = "page"| subscriber << {"method" => "Target.targetCreated", "params" => {"targetInfo" => {"targetId" => id, "type" => type}}} }
      define_method(:command) do |_, **facts|
        raise Ferrum::TimeoutError if mute

        late.each { |id| tell(id) }
        raise Ferrum::NoSuchPageError unless targets.include?(facts[:targetId])
      end
    end.new
  end

  before(:all) { Orvant::Browser::Orderly.mend }

  {
    "one that the browser has told of" => [{}, ->(session) { session.tell("w") }, true],
    "one that it knows and has not told of yet" => [{targets: ["w"]}, nil, true],
    "one that has gone, of which it tells late" => [{late: ["w"]}, nil, true],
    "a frame, which is no target" => [{}, nil, false],
    "a worker's target of another name" => [{}, ->(session) { session.tell("x", "worker") }, false],
    "what it does not say in time" => [{mute: true}, nil, true]
  }.each do |name, (facts, before, window)|
    it "takes #{name} #{window ? "for a window" : "for none"}" do
      session = session(**facts)
      windows = described_class.new
      windows.listen(session)
      before&.call(session)
      expect(windows.key?("w")).to be(window)
    ensure
      session.subscriber.close
    end
  end
end
