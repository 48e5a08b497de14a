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
    "http://g.example/?u=http://h.example/?b=1&c=2" => "http://g.example/?u=http://h.example/?b=1&c=2#frag"
  }.freeze
end
