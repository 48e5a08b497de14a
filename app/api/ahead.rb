# frozen_string_literal: true

# A long answer whose next parts are made while the last is being packed and sent, which leaves Ruby's lock to
# others.
class Ahead
  # Parts that wait.
  MOST = 2

  # @param parts [Enumerable<String>]
  def initialize(parts)
    @parts = parts
  end

  # @yieldparam part [String]
  # @raise whatever the making of a part raises
  def each
    waiting = SizedQueue.new(MOST)
    maker = Thread.new { make(waiting) }
    while (part = waiting.pop)
      yield part
    end
    maker.join
  ensure
    maker.kill
  end

  private

  def make(waiting)
    Thread.current.report_on_exception = false
    ActiveRecord::Base.connection_pool.with_connection { @parts.each { |part| waiting << part } }
  ensure
    waiting.close
  end
end
