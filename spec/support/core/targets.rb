# frozen_string_literal: true

# What browsers make of a target that stands on a page: held against the core, and against Chromium itself.
module Targets
  BASE = "http://a.example/x/y?q=1#frag"
  CASES = {
    "/z" => "http://a.example/z#frag",
    "z" => "http://a.example/x/z#frag",
    "../z" => "http://a.example/z#frag",
    "../../../z" => "http://a.example/z#frag",
    "./" => "http://a.example/x/#frag",
    ".." => "http://a.example/#frag",
    "?n=2" => "http://a.example/x/y?n=2#frag",
    "" => "http://a.example/x/y?q=1#frag",
    "#new" => "http://a.example/x/y?q=1#new",
    "//B.Example/p" => "http://b.example/p#frag",
    "///c.example/p" => "http://c.example/p#frag",
    "\\\\c.example\\p" => "http://c.example/p#frag",
    "http:\\\\d.example\\q" => "http://d.example/q#frag",
    "https:e.example/r" => "https://e.example/r#frag",
    "HTTPS://E.example:443/R" => "https://e.example/R#frag",
    "http://f.example:8080" => "http://f.example:8080/#frag",
    "  /sp ace  " => "http://a.example/sp%20ace#frag",
    "/li\nne\tbreak" => "http://a.example/linebreak#frag",
    "/ü?ä=ö" => "http://a.example/%C3%BC?%C3%A4=%C3%B6#frag",
    "http://bücher.example/" => "http://xn--bcher-kva.example/#frag",
    "/a?x=\"<>'" => "http://a.example/a?x=%22%3C%3E%27#frag",
    "/keep%2fescapes%zz" => "http://a.example/keep%2fescapes%zz#frag",
    "http://g.example/?u=http://h.example/?b=1&c=2" => "http://g.example/?u=http://h.example/?b=1&c=2#frag",
    "10.5:8080" => "http://a.example/x/10.5:8080#frag",
    "^a:b" => "http://a.example/x/%5Ea:b#frag",
    "[::1]:443/p" => "http://a.example/x/[::1]:443/p#frag",
    "http:z" => "http://a.example/x/z#frag",
    "http:/z" => "http://a.example/z#frag",
    "http:" => "http://a.example/x/y?q=1#frag",
    "http:a:b" => "http://a.example/x/a:b#frag",
    "\u017F:z" => "http://a.example/x/%C5%BF:z#frag",
    "/a|b^c`{d}?e|f^g`{h}#i|j`" => "http://a.example/a%7Cb%5Ec%60%7Bd%7D?e|f^g`{h}#i|j%60",
    "//k\u00ADl.example/" => "http://kl.example/#frag"
  }.freeze

  BASES = %w[http://a.example/dir/page?q=1#f https://b.example/day http://c.example].freeze
  PIECES = [
    "http:",
    "https:",
    "HTTP://",
    "mailto:",
    "//",
    "/",
    "\\",
    "..",
    ".",
    "%2e",
    "%2E%2e",
    "a",
    "B.example",
    ":8080",
    "?",
    "#",
    "&",
    "=",
    "x=1",
    "é",
    "日本",
    "%",
    "%zz",
    "%41",
    "%c3%bc",
    "|",
    "^",
    "`",
    "{",
    "}",
    "<",
    ">",
    "\"",
    "'",
    " ",
    "\t",
    "\n",
    "\u0001",
    "[",
    "]",
    "@",
    "+",
    ";",
    "!",
    "$",
    "*",
    "(",
    ",",
    "~",
    "%00",
    "\u200B",
    "\u017F",
    ":",
    "a:b"
  ].freeze

  # @param seed [Integer]
  # @return [Array<Array(String, String)>] targets strung together from what makes targets hard, each with a
  #   base; hosts are plain, since what no server can be called is refused by us where Chromium would ask for
  #   it
  def self.strung(count, seed:)
    random = Random.new(seed)
    Array.new(count) do
      tail = Array.new(random.rand(1..6)) { PIECES.sample(random: random) }.join
      [(random.rand < 0.3) ? "//h.example/#{tail}" : tail, BASES.sample(random: random)]
    end
  end
end
