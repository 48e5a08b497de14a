# frozen_string_literal: true

require "brotli"
require "zlib"
require "zstd-ruby"
require_relative "raw_server"

# Ways of moving a visitor on, or of only seeming to: what each path answers. Anything else answers a page
# that stays.
module Ways
  INERT = "<h1>A page with enough to read that nobody takes it for an empty one</h1>"

  class << self
    def page(body = INERT, **headers) = RawServer.page(body, **headers)

    def redirect(location, **headers) = RawServer.redirect(location, **headers)

    # A page with a script at its end.
    def script(text, before: INERT) = page("<!doctype html><title>t</title>#{before}<script>#{text}</script>")

    # A page with markup and enough to read.
    def markup(text) = page("<!doctype html><title>t</title>#{text}#{INERT}")

    def raw(head, body = "") = "#{head}\r\n\r\n#{body}"

    # @return [Hash{String => Object}] every path that is a case
    def cases = [FAMILIES, FURTHER].flat_map(&:values).reduce(:merge)

    # @param request [String]
    # @return [Object] what RawServer takes
    def answer(request)
      path = request[/\A\w+ (?:http:\/\/[^\/ ]+)?([^ ?]+)/, 1]
      found = cases[path] || AUXILIARY[path]
      found = found.call(request) if found.respond_to?(:call)
      found || page
    end
  end

  cookie = ->(request) { request[/^cookie: (.*?)\r?$/i, 1].to_s }
  refreshing = "<meta http-equiv=refresh content='0;url=/land'>#{INERT}"
  compressed = {gzip: Zlib.gzip(refreshing), br: Brotli.deflate(refreshing), zstd: Zstd.compress(refreshing)}
  moving = "location.href='/land'"

  AUXILIARY = {
    "/aux/move.js" => page(moving, "Content-Type": "text/javascript"),
    "/aux/slow-move.js" => ->(_) { sleep(1.5) && page(moving, "Content-Type": "text/javascript") },
    "/aux/very-slow.js" => ->(_) { sleep(4) && page(moving, "Content-Type": "text/javascript") },
    "/aux/timer.js" => page("setTimeout(() => { #{moving} }, 3500)", "Content-Type": "text/javascript"),
    "/aux/module.js" => page("export const go = () => { #{moving} }", "Content-Type": "text/javascript"),
    "/aux/worker.js" => page("setTimeout(() => postMessage('/land'), 1500)", "Content-Type": "text/javascript"),
    "/aux/stay.js" => page("window.stayed = location.href", "Content-Type": "text/javascript"),
    "/aux/json" => ->(_) { sleep(1) && page(%({"to": "/land?from=json"}), "Content-Type": "application/json") },
    "/aux/hang" => :hang,
    "/aux/top.html" => page("<script>top.location = '/land?from=frame'</script>"),
    "/aux/top-later.html" => page("<script>setTimeout(() => { top.location = '/land?from=frame' }, 3000)</script>"),
    "/aux/post.html" => page("<script>setTimeout(() => parent.postMessage('/land?posted', '*'), 1000)</script>"),
    "/aux/own.html" => page("<script>location = '/land?only-the-frame'</script>"),
    "/aux/204" => "HTTP/1.1 204 No Content\r\nConnection: close\r\n\r\n",
    "/aux/download" => page("x" * 99, "Content-Disposition": "attachment; filename=a.bin")
  }.freeze

  FAMILIES = {
    "status" => {
      "/s/301" => redirect("/land?a=1", status: "301 Moved"), "/s/302" => redirect("/land"), "/s/303" => redirect("/land", status: "303 See"),
      "/s/307" => redirect("/land", status: "307 Temporary"), "/s/308" => redirect("/land", status: "308 Permanent"),
      "/s/300" => redirect("/land", status: "300 Choices"), "/s/304" => redirect("/land", status: "304 Not Modified"),
      "/s/305" => redirect("/land", status: "305 Use Proxy"), "/s/201" => redirect("/land", status: "201 Created"),
      "/s/404" => page(status: "404 Not Found"), "/s/500" => page(status: "500 Oh"), "/s/410-script" => script(moving).sub("200 OK", "410 Gone"),
      "/s/401" => page(status: "401 Unauthorized", "WWW-Authenticate": "Basic realm=x"), "/s/401-location" => redirect("/land", status: "401 Unauthorized"),
      "/s/relative/x" => redirect("y?z"), "/s/dots/a/b" => redirect("../../c/./d"), "/s/query" => redirect("?q=1").then { |answer| ->(request) { request.include?("q=1") ? page : answer } },
      "/s/scheme" => redirect("//b.example/land"), "/s/slashes" => redirect("\\\\b.example\\land"), "/s/spaces" => redirect("  /a b?c d=e f  "),
      "/s/utf8" => redirect("/ü?ä=ö"), "/s/latin" => redirect("/caf\xE9?d=\xE9".b), "/s/percent" => redirect("/%zz?%41=%2f"),
      "/s/fragment" => redirect("/land#own"), "/s/inherit" => redirect("/land"), "/s/empty" => redirect(""), "/s/userinfo" => redirect("http://me:pw@b.example/land"),
      "/s/port-zeros" => redirect("http://b.example:00080/land"), "/s/percent-host" => redirect("http://%62.example/land"), "/s/upper-host" => redirect("HTTP://B.EXAMPLE/land"),
      "/s/wide-host" => redirect("http://\uFF42.example/land"), "/s/bad-port" => redirect("http://b.example:6667/x"), "/s/long" => redirect("/land?x=#{"a" * 17_000}"),
      "/s/both" => redirect("/land", Refresh: "0;url=/refreshed"), "/s/with-body" => page("<meta http-equiv=refresh content='0;url=/body'>", status: "302 Found", Location: "/land"),
      "/s/chain" => redirect("/s/chain-2"), "/s/chain-2" => redirect("/s/chain-3"), "/s/chain-3" => script("location.replace('/land')")
    },
    "wire" => {
      "/w/http10" => raw("HTTP/1.0 302 Found\r\nLocation: /land"), "/w/no-reason" => raw("HTTP/1.1 302\r\nLocation: /land\r\nContent-Length: 0\r\nConnection: close"),
      "/w/bare-lines" => "HTTP/1.1 302 Found\nLocation: /land\nContent-Length: 0\nConnection: close\n\n",
      "/w/folded" => raw("HTTP/1.1 302 Found\r\nLocation:\r\n /land\r\nContent-Length: 0\r\nConnection: close"),
      "/w/folded-value" => raw("HTTP/1.1 200 OK\r\nContent-Type: text/html\r\nRefresh: 0;\r\n url=/land\r\nContent-Length: 2\r\nConnection: close", "ok"),
      "/w/blank-colon" => raw("HTTP/1.1 302 Found\r\nLocation : /land\r\nContent-Length: 0\r\nConnection: close"),
      "/w/no-colon" => raw("HTTP/1.1 302 Found\r\nnonsense\r\nLocation: /land\r\nContent-Length: 0\r\nConnection: close"),
      "/w/no-name" => raw("HTTP/1.1 302 Found\r\n: nothing\r\nLocation: /land\r\nContent-Length: 0\r\nConnection: close"),
      "/w/empty-first" => "\r\n\r\n#{redirect("/land")}", "/w/minus-length" => raw("HTTP/1.1 302 Found\r\nLocation: /land\r\nContent-Length: -1\r\nConnection: close"),
      "/w/two-lengths" => raw("HTTP/1.1 302 Found\r\nLocation: /land\r\nContent-Length: 0\r\nContent-Length: 5\r\nConnection: close"),
      "/w/same-lengths" => raw("HTTP/1.1 302 Found\r\nLocation: /land\r\nContent-Length: 0\r\nContent-Length: 0\r\nConnection: close"),
      "/w/two-places" => raw("HTTP/1.1 302 Found\r\nLocation: /one\r\nLocation: /two\r\nContent-Length: 0\r\nConnection: close"),
      "/w/same-places" => raw("HTTP/1.1 302 Found\r\nLocation: /land\r\nLocation: /land\r\nContent-Length: 0\r\nConnection: close"),
      "/w/two-refresh" => raw("HTTP/1.1 200 OK\r\nContent-Type: text/html\r\nRefresh: 0;url=/one\r\nRefresh: 0;url=/two\r\nContent-Length: 2\r\nConnection: close", "ok"),
      "/w/bare-return" => raw("HTTP/1.1 302 Found\r\nX: a\rb\r\nLocation: /land\r\nContent-Length: 0\r\nConnection: close"),
      "/w/until-close" => raw("HTTP/1.1 200 OK\r\nContent-Type: text/html\r\nConnection: close", "<meta http-equiv=refresh content='0;url=/land'>#{INERT}"),
      "/w/short-body" => page("<meta http-equiv=refresh content='3;url=/land'>#{INERT}", "Content-Length": 9_000),
      "/w/short-script" => page("<script>setTimeout(() => { #{moving} }, 500)</script>#{INERT}", "Content-Length": 9_000),
      "/w/chunked" => raw("HTTP/1.1 200 OK\r\nContent-Type: text/html\r\nTransfer-Encoding: chunked\r\nConnection: close", "2f\r\n<meta http-equiv=refresh content='0;url=/land'>\r\n0\r\n\r\n"),
      "/w/chunk-broken" => raw("HTTP/1.1 200 OK\r\nContent-Type: text/html\r\nTransfer-Encoding: chunked\r\nConnection: close", "zz\r\n<meta http-equiv=refresh content='0;url=/land'>\r\n0\r\n\r\n"),
      "/w/early" => "HTTP/1.1 103 Early Hints\r\nLink: </x>; rel=preload\r\n\r\n#{redirect("/land")}", "/w/lower" => raw("HTTP/1.1 302 Found\r\nlocation:/land\r\ncontent-length: 0\r\nconnection: close"),
      "/w/control" => redirect("/a\u0001b"), "/w/close" => :close, "/w/204" => "HTTP/1.1 204 No Content\r\nConnection: close\r\n\r\n",
      "/w/205" => raw("HTTP/1.1 205 Reset\r\nContent-Length: 0\r\nConnection: close")
    },
    "coding" => {
      "/c/gzip" => page(compressed[:gzip], "Content-Encoding": "gzip"), "/c/gzip-cut" => page(compressed[:gzip][0...-12], "Content-Encoding": "gzip"),
      "/c/deflate" => page(Zlib.deflate("<meta http-equiv=refresh content='0;url=/land'>#{INERT}"), "Content-Encoding": "deflate"),
      "/c/raw-deflate" => page(Zlib::Deflate.new(9, -15).deflate("<meta http-equiv=refresh content='0;url=/land'>#{INERT}", Zlib::FINISH), "Content-Encoding": "deflate"),
      "/c/twice" => page(Zlib.gzip(compressed[:gzip]), "Content-Encoding": "gzip, gzip"), "/c/identity" => page("<meta http-equiv=refresh content='0;url=/land'>#{INERT}", "Content-Encoding": "identity"),
      "/c/not-packed" => page("<meta http-equiv=refresh content='0;url=/land'>#{INERT}", "Content-Encoding": "gzip"),
      "/c/br" => page(compressed[:br], "Content-Encoding": "br"), "/c/br-cut" => page(compressed[:br][0...-3], "Content-Encoding": "br"),
      "/c/zstd" => page(compressed[:zstd], "Content-Encoding": "zstd"), "/c/zstd-not" => page("<meta http-equiv=refresh content='0;url=/land'>#{INERT}", "Content-Encoding": "zstd"),
      "/c/x-gzip" => page(compressed[:gzip], "Content-Encoding": "x-gzip"), "/c/unknown" => page("<meta http-equiv=refresh content='0;url=/land'>#{INERT}", "Content-Encoding": "rot13")
    },
    "meta" => {
      "/m/plain" => markup("<meta http-equiv=Refresh content='0;URL=\"/land?m=1\"'>"), "/m/bare" => markup("<meta http-equiv=refresh content='0 /land'>"),
      "/m/late" => markup("<meta http-equiv=refresh content='4;url=/land'>"), "/m/too-late" => markup("<meta http-equiv=refresh content='90;url=/land'>"),
      "/m/base" => markup("<base href='http://b.example/deep/'><meta http-equiv=refresh content='0;url=land'>"), "/m/base-after" => markup("<meta http-equiv=refresh content='0;url=land'><base href='http://b.example/deep/'>"),
      "/m/base-template" => markup("<template><base href='http://b.example/deep/'></template><meta http-equiv=refresh content='0;url=land'>"),
      "/m/comment" => markup("<!-- <meta http-equiv=refresh content='0;url=/land'> -->"), "/m/noscript" => markup("<noscript><meta http-equiv=refresh content='0;url=/land'></noscript>"),
      "/m/template" => markup("<template><meta http-equiv=refresh content='0;url=/land'></template>"), "/m/select" => markup("<select><option>x<meta http-equiv=refresh content='0;url=/land'></select>"),
      "/m/svg" => markup("<svg><meta http-equiv=refresh content='0;url=/land'></meta></svg>"), "/m/textarea" => markup("<textarea><meta http-equiv=refresh content='0;url=/land'></textarea>"),
      "/m/title" => markup("<title><meta http-equiv=refresh content='0;url=/land'></title>"), "/m/body" => page("<body>#{INERT}<meta http-equiv=refresh content='0;url=/land'>"),
      "/m/two" => markup("<meta http-equiv=refresh content='5;url=/later'><meta http-equiv=refresh content='0;url=/land'>"), "/m/two-same" => markup("<meta http-equiv=refresh content='0;url=/one'><meta http-equiv=refresh content='0;url=/two'>"),
      "/m/header-and-meta" => page("<meta http-equiv=refresh content='0;url=/meta-won'>#{INERT}", Refresh: "0;url=/header-won"), "/m/header" => page(Refresh: "0; url=/land?r=1"),
      "/m/header-bad" => page(Refresh: "soon; url=/land"), "/m/javascript" => markup("<meta http-equiv=refresh content='0;url=javascript:location=`/land`'>"), "/m/data" => markup("<meta http-equiv=refresh content='0;url=data:text/html,x'>"),
      "/m/entity" => markup("<meta http-equiv=refresh content='0;url=/land?a=1&amp;b=2&copy=3'>"), "/m/blank-name" => markup("<meta http-equiv=' refresh' content='0;url=/land'>"),
      "/m/half-second" => markup("<meta http-equiv=refresh content='0.5;url=/land'>"), "/m/minus" => markup("<meta http-equiv=refresh content='-1;url=/land'>"), "/m/deep" => markup("#{"<div>" * 600}<meta http-equiv=refresh content='0;url=/land'>"),
      "/m/many-attributes" => markup("<p #{(1..500).map { |number| "a#{number}=1" }.join(" ")}><meta http-equiv=refresh content='0;url=/land'>"), "/m/far-head" => page("<head><style>#{"a{b:c}" * 50_000}</style><meta http-equiv=refresh content='0;url=/land'></head>#{INERT}"),
      "/m/sandbox" => page("<meta http-equiv=refresh content='0;url=/land'>#{INERT}", "Content-Security-Policy": "sandbox"), "/m/script-first" => markup("<script>location = '/script'</script><meta http-equiv=refresh content='0;url=/meta'>"),
      "/m/self" => markup("<meta http-equiv=refresh content='30'>"), "/m/404" => page("<meta http-equiv=refresh content='0;url=/land'>#{INERT}", status: "404 Gone"), "/m/mailto" => markup("<meta http-equiv=refresh content='0;url=mailto:a@b.test'>"), "/m/app" => markup("<meta http-equiv=refresh content='1;url=skerry-app://open'>"), "/m/file" => markup("<meta http-equiv=refresh content='0;url=file:///etc/hostname'>"), "/m/about" => markup("<meta http-equiv=refresh content='0;url=about:blank'>")
    },
    "charset" => {
      "/h/latin-header" => page("<title>Gr\xF6\xDFe</title><meta http-equiv=refresh content='0;url=/caf\xE9?d=\xE9'>".b, "Content-Type": "text/html; charset=iso-8859-1"),
      "/h/latin-meta" => page("<meta charset=iso-8859-1><meta http-equiv=refresh content='0;url=/caf\xE9?d=\xE9'>".b), "/h/cyrillic" => page("<meta http-equiv=refresh content='0;url=/\xEF?d=\xEF'>".b, "Content-Type": "text/html; charset=windows-1251"),
      "/h/utf8" => page("<meta charset=utf-8><meta http-equiv=refresh content='0;url=/ü?d=ü'>"), "/h/default" => page("<meta http-equiv=refresh content='0;url=/\xE9?d=\xE9'>".b, "Content-Type": "text/html"),
      "/h/bom" => page("\uFEFF<meta http-equiv=refresh content='0;url=/ü?d=ü'>", "Content-Type": "text/html; charset=iso-8859-1"), "/h/utf16" => page("<meta http-equiv=refresh content='0;url=/land?d=ü'>".encode("UTF-16LE").then { |text| "\xFF\xFE".b + text.b }),
      "/h/cannot-hold" => page("<meta http-equiv=refresh content='0;url=/x?d=&#8364;&#1078;'>".b, "Content-Type": "text/html; charset=iso-8859-2"), "/h/shift-jis" => page("<meta http-equiv=refresh content='0;url=/x?d=\x93\xFA'>".b, "Content-Type": "text/html; charset=shift_jis"),
      "/h/meta-late" => page("#{"<!-- #{"x" * 1_100} -->"}<meta charset=utf-8><meta http-equiv=refresh content='0;url=/ü?d=ü'>"), "/h/header-utf16" => page("<meta charset=utf-16><meta http-equiv=refresh content='0;url=/ü?d=ü'>")
    },
    "type" => {
      "/t/text" => page("<meta http-equiv=refresh content='0;url=/land'>", "Content-Type": "text/plain"), "/t/json" => page("{}", "Content-Type": "application/json"), "/t/upper" => page("<meta http-equiv=refresh content='0;url=/land'>", "Content-Type": "TEXT/HTML"),
      "/t/none" => raw("HTTP/1.1 200 OK\r\nContent-Length: 62\r\nConnection: close", "<html><meta http-equiv=refresh content='0;url=/land'></html>  "), "/t/none-nosniff" => raw("HTTP/1.1 200 OK\r\nContent-Length: 62\r\nX-Content-Type-Options: nosniff\r\nConnection: close", "<html><meta http-equiv=refresh content='0;url=/land'></html>  "),
      "/t/two-types" => raw("HTTP/1.1 200 OK\r\nContent-Type: text/plain\r\nContent-Type: text/html\r\nContent-Length: 47\r\nConnection: close", "<meta http-equiv=refresh content='0;url=/land'>"), "/t/two-types-text" => raw("HTTP/1.1 200 OK\r\nContent-Type: text/html\r\nContent-Type: text/plain\r\nContent-Length: 47\r\nConnection: close", "<meta http-equiv=refresh content='0;url=/land'>"),
      "/t/none-bare" => raw("HTTP/1.1 200 OK\r\nContent-Length: 47\r\nConnection: close", "<meta http-equiv=refresh content='0;url=/land'>"), "/t/none-script" => raw("HTTP/1.1 200 OK\r\nContent-Length: 40\r\nConnection: close", "<script>location = '/land'     </script>"),
      "/t/unknown" => page("<html><meta http-equiv=refresh content='0;url=/land'>", "Content-Type": "unknown/unknown"), "/t/broken" => page("<html><meta http-equiv=refresh content='0;url=/land'>", "Content-Type": "html"),
      "/t/xhtml" => page("<html xmlns='http://www.w3.org/1999/xhtml'><head><meta http-equiv='refresh' content='0;url=/land'/><title>x</title></head><body>some words here</body></html>", "Content-Type": "application/xhtml+xml"),
      "/t/xml-xhtml" => page("<html xmlns='http://www.w3.org/1999/xhtml'><head><meta http-equiv='refresh' content='0;url=/land'/><title>x</title></head><body>words</body></html>", "Content-Type": "application/xml"),
      "/t/xhtml-no-namespace" => page("<html><head><meta http-equiv='refresh' content='0;url=/land'/></head><body>words</body></html>", "Content-Type": "application/xhtml+xml"),
      "/t/svg-script" => page("<svg xmlns='http://www.w3.org/2000/svg'><script>#{moving}</script></svg>", "Content-Type": "image/svg+xml"), "/t/attachment" => page("<meta http-equiv=refresh content='0;url=/land'>", "Content-Disposition": "attachment"),
      "/t/inline" => page("<meta http-equiv=refresh content='0;url=/land'>", "Content-Disposition": "inline; filename=x.html"), "/t/zip" => page("PK" * 99, "Content-Type": "application/zip"), "/t/picture" => page("GIF89a", "Content-Type": "image/gif", Refresh: "0;url=/land")
    },
    "script" => {
      "/j/href" => script("location.href = '/land?s=1'"), "/j/replace" => script("window.location.replace('land')"), "/j/assign" => script("document.location.assign('/land')"), "/j/bracket" => script("window['loc' + 'ation']['hr' + 'ef'] = '/land'"),
      "/j/variable" => script("const w = window, l = w.location; l.replace('/land')"), "/j/eval" => script("eval(atob('bG9jYXRpb249Jy9sYW5kJw=='))"), "/j/function" => script("new Function('location=\"/land\"')()"), "/j/navigation" => script("navigation.navigate('/land')"),
      "/j/open-self" => script("window.open('/land', '_self')"), "/j/open-blank" => script("window.open('/land', '_blank')"), "/j/click" => script("document.querySelector('a').click()", before: "<a href=/land?clicked>go</a>#{INERT}"), "/j/click-blank" => script("document.querySelector('a').click()", before: "<a href=/land target=_blank>go</a>#{INERT}"),
      "/j/dispatch" => script("document.querySelector('a').dispatchEvent(new MouseEvent('click'))", before: "<a href=/land?sent>go</a>#{INERT}"), "/j/submit" => script("document.forms[0].submit()", before: "<form action=/land><input name=q value=1></form>#{INERT}"),
      "/j/post" => script("document.forms[0].submit()", before: "<form action=/land method=post><input name=q value=1></form>#{INERT}"), "/j/request-submit" => script("document.forms[0].requestSubmit()", before: "<form action=/land><input name=q value=1></form>#{INERT}"),
      "/j/onload" => markup("<body onload=\"location='/land'\">"), "/j/onerror" => markup("<img src=/aux/204 onerror=\"location='/land?error'\">"), "/j/onpageshow" => script("addEventListener('pageshow', () => { #{moving} })"), "/j/onanimation" => markup("<style>@keyframes k{to{opacity:.5}} i{animation:k 1s}</style><i onanimationend=\"location='/land?animated'\">x</i>"),
      "/j/module" => markup("<script type=module>import {go} from '/aux/module.js'; go()</script>"), "/j/import" => script("import('/aux/module.js').then(m => m.go())"), "/j/external" => markup("<script src=/aux/move.js></script>"), "/j/external-other" => markup("<script src=http://b.example/aux/move.js></script>"),
      "/j/defer" => markup("<script defer src=/aux/slow-move.js></script>"), "/j/async" => markup("<script async src=/aux/slow-move.js></script>"), "/j/injected" => script("const s = document.createElement('script'); s.src = '/aux/slow-move.js'; document.head.append(s)"),
      "/j/very-slow" => markup("<script async src=/aux/very-slow.js></script>"), "/j/timer-file" => markup("<script src=/aux/timer.js></script>"), "/j/write-meta" => script("document.write('<meta http-equiv=refresh content=\"0;url=/land\">')"),
      "/j/add-meta" => script("const m = document.createElement('meta'); m.httpEquiv = 'refresh'; m.content = '1;url=/land'; document.head.append(m)"), "/j/remove-meta" => markup("<meta http-equiv=refresh content='2;url=/land'><script>document.querySelector('meta').remove()</script>"),
      "/j/change-meta" => markup("<meta http-equiv=refresh content='2;url=/one'><script>document.querySelector('meta').content = '1;url=/two'</script>"), "/j/stop" => markup("<meta http-equiv=refresh content='1;url=/land'><script>window.stop()</script>"), "/j/against-refresh" => page("<script>location = '/script'</script>#{INERT}", Refresh: "3;url=/header"),
      "/j/replace-state" => script("history.replaceState(null, '', '/rewritten?clean')"), "/j/push-state" => script("history.pushState(null, '', '?pushed=1')"), "/j/push-later" => script("setTimeout(() => history.pushState(null, '', '/later'), 2500)"), "/j/hash" => script("location.hash = 'here'"),
      "/j/hash-href" => script("location = '#there'"), "/j/strip" => script("history.replaceState({}, '', location.pathname)"), "/j/reads" => script("window.seen = location.href"), "/j/javascript-url" => script("location = 'javascript:location=\"/land\"'"), "/j/blob" => script("location = URL.createObjectURL(new Blob(['<h1>x']))"),
      "/j/about" => script("location = 'about:blank'"), "/j/data" => script("location = 'data:text/html,<h1>x'"), "/j/promise" => script("Promise.resolve().then(() => { #{moving} })"), "/j/referrer" => ->(request) { request.match?(/^referer:/i) ? redirect("/land?with") : script("location = '/j/referrer'") },
      "/j/srcdoc" => markup("<iframe srcdoc=\"<script>top.location='/land?srcdoc'</script>\"></iframe>"), "/j/document-write" => script("document.open(); document.write('<h1>new</h1><script>location=\"/land\"<\\/script>'); document.close()"), "/j/svg-onload" => markup("<svg onload=\"location='/land'\"></svg>"),
      "/j/alert" => script("alert('hello'); #{moving}"), "/j/confirm" => script("if (!confirm('really?')) { #{moving} }"), "/j/details" => markup("<details open ontoggle=\"location='/land'\">x</details>"), "/j/autofocus" => markup("<input autofocus onfocus=\"location='/land?focus'\">"), "/j/popover" => script("setTimeout(moveOn); function moveOn() { document.location = '/land' }")
    },
    "time" => {
      "/l/2300" => script("setTimeout(() => { #{moving} }, 2300)"), "/l/5000" => script("setTimeout(() => { #{moving} }, 5000)"), "/l/9000" => script("setTimeout(() => { #{moving} }, 9000)"), "/l/20000" => script("setTimeout(() => { #{moving} }, 20000)"),
      "/l/countdown" => script("let n = 4; const i = setInterval(() => { if (!--n) { clearInterval(i); #{moving} } }, 1000)"), "/l/for-ever" => script("setInterval(() => { window.ticks = (window.ticks || 0) + 1 }, 50)"), "/l/clock" => script("const t = Date.now(); setInterval(() => { if (Date.now() - t > 3000) #{moving} }, 100)"),
      "/l/now" => script("const t = performance.now(); (function again() { performance.now() - t > 2000 ? (#{moving}) : setTimeout(again, 50) })()"), "/l/frame-by-frame" => script("let n = 30; (function again() { --n ? requestAnimationFrame(again) : (#{moving}) })()"), "/l/idle" => script("requestIdleCallback(() => setTimeout(() => { #{moving} }, 1000))"),
      "/l/fetch" => script("fetch('/aux/json').then(r => r.json()).then(j => { location = j.to })"), "/l/fetch-then-wait" => script("fetch('/aux/json').then(() => setTimeout(() => { #{moving} }, 3000))"), "/l/wait-then-fetch" => script("setTimeout(() => fetch('/aux/json').then(() => { #{moving} }), 3000)"),
      "/l/race-timer" => script("fetch('/aux/json').then(() => { location = '/network' }); setTimeout(() => { location = '/timer' }, 300)"), "/l/race-network" => script("fetch('/aux/json').then(() => { location = '/network' }); setTimeout(() => { location = '/timer' }, 2500)"), "/l/race-refresh" => markup("<meta http-equiv=refresh content='1;url=/meta'><script>setTimeout(() => { location = '/timer' }, 3000)</script>"),
      "/l/race-script" => markup("<meta http-equiv=refresh content='4;url=/meta'><script>setTimeout(() => { location = '/timer' }, 2000)</script>"), "/l/hang" => script("fetch('/aux/hang'); setTimeout(() => { #{moving} }, 3000)"), "/l/hanging-picture" => markup("<img src=/aux/hang><script>setTimeout(() => { #{moving} }, 2000)</script>"),
      "/l/timeout" => script("fetch('/aux/hang', {signal: AbortSignal.timeout(2000)}).catch(() => { #{moving} })"), "/l/two-steps" => script("setTimeout(() => { location = '/l/2300' }, 2000)"), "/l/worker" => script("new Worker('/aux/worker.js').onmessage = event => { location = event.data }"),
      "/l/message" => script("const c = new MessageChannel(); c.port1.onmessage = () => { #{moving} }; c.port2.postMessage(1)"), "/l/wait-then-state" => script("setTimeout(() => history.replaceState({}, '', '/state'), 4000)"), "/l/load-then-wait" => script("addEventListener('load', () => setTimeout(() => { #{moving} }, 1800))")
    },
    "frames" => {
      "/f/top" => markup("<iframe src=/aux/top.html></iframe>"), "/f/top-later" => markup("<iframe src=/aux/top-later.html></iframe>"), "/f/top-other" => markup("<iframe src=http://b.example/aux/top.html></iframe>"), "/f/post" => script("addEventListener('message', e => { location = e.data })", before: "<iframe src=/aux/post.html></iframe>#{INERT}"),
      "/f/post-other" => script("addEventListener('message', e => { location = e.data })", before: "<iframe src=http://b.example/aux/post.html></iframe>#{INERT}"), "/f/own" => markup("<iframe src=/aux/own.html></iframe>"), "/f/sandbox" => markup("<iframe sandbox=allow-scripts src=/aux/top.html></iframe>"),
      "/f/sandbox-top" => markup("<iframe sandbox='allow-scripts allow-top-navigation' src=/aux/top.html></iframe>"), "/f/frameset" => page("<frameset cols=*><frame src=/aux/top.html></frameset>"), "/f/object" => markup("<object data=/aux/top.html type=text/html></object>"), "/f/target-top" => script("document.querySelector('a').click()", before: "<iframe name=x></iframe><a href=/land target=x>in the frame</a>#{INERT}")
    },
    "apps" => {
      "/a/app-then-page" => script("location = 'skerry-app://open'; setTimeout(() => { #{moving} }, 1500)"), "/a/app" => script("location = 'skerry-app://open'"), "/a/mail" => script("location = 'mailto:a@b.test'"), "/a/phone" => script("setTimeout(() => { location = 'tel:+4712' }, 500)"),
      "/a/intent" => script("location = 'intent://open#Intent;scheme=skerry;end'"), "/a/frame-app" => markup("<iframe src='skerry-app://open'></iframe><script>setTimeout(() => { #{moving} }, 1000)</script>"), "/a/status-mail" => redirect("mailto:a@b.test"), "/a/status-app" => redirect("skerry-app://open"),
      "/a/download" => script("location = '/aux/download'"), "/a/no-content" => script("location = '/aux/204'"), "/a/no-content-then" => script("location = '/aux/204'; setTimeout(() => { #{moving} }, 2000)"), "/a/start-download" => page("x" * 99, "Content-Disposition": "attachment; filename=a.bin")
    },
    "state" => {
      "/k/cookie-reload" => ->(request) { cookie.call(request).include?("in=1") ? page : script("document.cookie = 'in=1'; location.reload()") }, "/k/storage-reload" => script("if (!sessionStorage.in) { sessionStorage.in = 1; location.reload() } else { location = '/land' }"),
      "/k/count" => script("const n = +(sessionStorage.n || 0); sessionStorage.n = n + 1; n < 5 ? location.reload() : location = '/land'"), "/k/gate" => ->(request) { cookie.call(request).include?("in=1") ? page : redirect("/k/gate?back=1", "Set-Cookie": "in=1") },
      "/k/strict" => ->(request) { cookie.call(request).include?("s=1") ? page("<h1>in") : redirect("http://b.example/k/back", "Set-Cookie": "s=1; SameSite=Strict") }, "/k/back" => redirect("http://a.example/k/strict-end"),
      "/k/strict-end" => ->(request) { cookie.call(request).include?("s=1") ? redirect("/land?sent") : redirect("/land?not-sent") }, "/k/lax" => redirect("/k/lax-end", "Set-Cookie": "s=1; SameSite=Lax"), "/k/lax-end" => ->(request) { cookie.call(request).include?("s=1") ? redirect("/land?sent") : redirect("/land?not-sent") },
      "/k/none" => redirect("/k/lax-end", "Set-Cookie": "s=1; SameSite=None"), "/k/secure" => redirect("/k/lax-end", "Set-Cookie": "s=1; Secure"), "/k/host-prefix" => redirect("/k/prefix-end", "Set-Cookie": "__Host-s=1; Path=/"),
      "/k/prefix-end" => ->(request) { cookie.call(request).include?("s=1") ? redirect("/land?sent") : redirect("/land?not-sent") }, "/k/nameless" => redirect("/k/nameless-end", "Set-Cookie": "alone"), "/k/nameless-end" => ->(request) { cookie.call(request).include?("alone") ? redirect("/land?sent") : redirect("/land?not-sent") },
      "/k/script-cookie" => script("document.cookie = 's=1'; location = '/k/lax-end'"), "/k/name" => script("name ? location = '/land?' + name : (name = 'x', location.reload())"), "/k/referer" => redirect("/k/referer-end"),
      "/k/referer-end" => ->(request) { request.match?(/^referer:/i) ? redirect("/land?with") : redirect("/land?without") }, "/k/meta-referer" => markup("<meta http-equiv=refresh content='0;url=/k/referer-end'>"), "/k/no-referer" => page("<meta http-equiv=refresh content='0;url=/k/referer-end'>#{INERT}", "Referrer-Policy": "no-referrer"),
      "/k/cut-referer" => RawServer.page("<meta http-equiv=refresh content='0;url=/k/cut-widened'>", "Referrer-Policy": "no-referrer"), "/k/cut-widened" => redirect("/k/referer-end", "Referrer-Policy": "unsafe-url"),
      "/k/origin-only" => RawServer.page("<meta http-equiv=refresh content='0;url=/k/cut-widened'>", "Referrer-Policy": "origin")
    }
  }.freeze

  # Those of which each tells of another decision and none takes long.
  SHARP = %w[
    /s/301 /s/303 /s/300 /s/404 /s/410-script /s/401-location /s/dots/a/b /s/slashes /s/latin /s/percent /s/fragment /s/empty /s/port-zeros /s/percent-host /s/chain
    /w/folded /w/blank-colon /w/no-colon /w/empty-first /w/two-lengths /w/two-places /w/two-refresh /w/short-script /w/204
    /c/raw-deflate /c/br /c/zstd /c/twice /c/not-packed /m/plain /m/base-after /m/base-template /m/noscript /m/select /m/two-same /m/header-and-meta /m/deep /m/sandbox /m/script-first
    /h/latin-header /h/bom /h/cannot-hold /t/none /t/two-types /t/svg-script /t/attachment
    /j/bracket /j/eval /j/open-self /j/click /j/request-submit /j/onload /j/module /j/external-other /j/write-meta /j/remove-meta /j/replace-state /j/confirm
    /l/2300 /l/for-ever /l/clock /l/race-timer /f/top /f/post-other /f/sandbox /a/app-then-page /a/mail /a/no-content /k/count /k/strict /k/nameless /k/no-referer /k/cut-referer /k/origin-only
    /q/viewsource /r/frag /r/ct-html-plain /z/back-none /z/upgrade /z/two-locs /z/mind-later /z/mind-led
  ].freeze
end
