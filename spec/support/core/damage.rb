# frozen_string_literal: true

# Damages bytes and documents as transport, software and people do: the same way for the same seed.
class Damage
  WEDGES = [
    "\"",
    "\0",
    "\r\n",
    "\xFF",
    "'",
    ",",
    ";",
    "<",
    "&#0;",
    "{",
    "[",
    "%",
    ":",
    "=?utf-8?Q?=ZZ?=",
    "\u2028",
    "99999999999999999999",
    "Content-Length: -5\r\n",
    "Location: http://[::1\r\n",
    "Set-Cookie: =;;=\r\n",
    "Refresh: \r\n"
  ].map(&:b).freeze
  ODDITIES = [
    nil,
    true,
    0,
    -1,
    1e9,
    "",
    "x",
    "*",
    "[",
    "a" * 5_000,
    [],
    {},
    [nil],
    [[]],
    {"a" => 1},
    "\u0000",
    "(a+)+$"
  ].freeze

  # @param seed [Integer]
  def initialize(seed)
    @random = Random.new(seed)
  end

  # @param list [Array]
  # @return [Object] one of them
  def one_of(list) = list.sample(random: @random)

  # @param bytes [String]
  # @return [String] with some bytes changed, taken out, put in, repeated, or cut off
  def bytes(bytes)
    damaged = bytes.b.dup
    @random.rand(1..6).times { damaged = once(damaged) unless damaged.empty? }
    damaged
  end

  # @param document [Hash, Array] of JSON
  # @return [Object] with some of its values replaced, taken out or added
  def document(document)
    copy = JSON.parse(JSON.generate(document))
    @random.rand(1..3).times { change(*one_of(places(copy))) }
    copy
  end

  private

  def once(bytes)
    at = @random.rand(bytes.bytesize)
    case @random.rand(5)
    when 0
      bytes.tap { bytes.setbyte(at, @random.rand(256)) }
    when 1
      bytes.tap { bytes.slice!(at, @random.rand(1..40)) }
    when 2
      bytes.insert(at, one_of(WEDGES) * @random.rand(1..3))
    when 3
      bytes.byteslice(0, at + 1)
    else
      bytes.insert(at, bytes.byteslice(at, @random.rand(150)))
    end
  end

  # @return [Array<Array(Object, Object)>] each Hash or Array of it with one of its keys or places
  def places(value)
    case value
    when Hash
      value.flat_map { |key, inner| [[value, key], *places(inner)] }
    when Array
      value.each_with_index.flat_map { |inner, index| [[value, index], *places(inner)] }
    else
      []
    end
  end

  def change(holder, key)
    case @random.rand(3)
    when 0
      holder[key] = one_of(ODDITIES)
    when 1
      holder.is_a?(Hash) ? holder.delete(key) : holder.delete_at(key)
    else
      holder.is_a?(Hash) ? holder["odd"] = one_of(ODDITIES) : holder << one_of(ODDITIES)
    end
  end
end
