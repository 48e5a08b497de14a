# frozen_string_literal: true

require "socket"
require_relative "scratch"

# Pages that nobody should make, looked at by a browser as a sweep looks: how long all take, what they hold in
# memory meanwhile, and what is said of each.
class HeavyBench
  FILL = "const keep = []; const fill = (n) => { const a = new Uint8Array(n); for (let i = 0; i < n; i += 4096) a[i] = 1; return a };"
  PAGES = {
    "plain" => "<h1>A page</h1>",
    "a loop without end" => "<script>for (;;) {}</script>",
    "lists without end" => "<script>const all = []; for (;;) all.push(new Array(1000).fill({a: 1}))</script>",
    "buffers without end" => "<script>#{FILL} setInterval(() => keep.push(fill(32e6)), 20)</script>",
    "text without end" => "<script>let t = 'x'; for (;;) { t += t; document.title = t.slice(0, 5) }</script>",
    "elements without end" => "<script>for (;;) document.body ? document.body.append(...Array.from({length: 1000}, () => document.createElement('div'))) : document.write('<p>')</script>",
    "storage without end" => "<script>#{FILL} const o = indexedDB.open('x'); o.onupgradeneeded = () => o.result.createObjectStore('s', {autoIncrement: true}); o.onsuccess = () => setInterval(() => o.result.transaction('s', 'readwrite').objectStore('s').add(fill(16e6)), 20)</script>",
    "caches without end" => "<script>#{FILL} caches.open('x').then(async (c) => { for (let i = 0;; i++) await c.put('/' + i, new Response(fill(16e6))) })</script>",
    "blobs without end" => "<script>#{FILL} setInterval(() => keep.push(new Blob([fill(16e6)])), 20)</script>",
    "canvases without end" => "<script>setInterval(() => { const c = document.createElement('canvas'); c.width = c.height = 4000; c.getContext('2d').fillRect(0, 0, 4000, 4000); (window.k ||= []).push(c) }, 20)</script>",
    "workers without end" => "<script>#{FILL} const url = URL.createObjectURL(new Blob(['const k = []; setInterval(() => { const a = new Uint8Array(8e6); for (let i = 0; i < 8e6; i += 4096) a[i] = 1; k.push(a) }, 20)'])); for (let i = 0; i < 20; i++) new Worker(url)</script>",
    "windows without end" => "<script>setInterval(() => window.open(location.href), 50)</script>",
    "frames without end" => "<script>setInterval(() => { const f = document.createElement('iframe'); f.src = location.href; document.body.append(f) }, 50)</script>",
    "questions without end" => "<script>for (;;) alert('?')</script>"
  }.freeze
  ENDLESS = "/endless"

  # Prints, for each page, seconds, the most memory of the browser, and what is said.
  def call
    Scratch.application
    serve
    browser = Orvant::Browser::Sealed.new(
      guard: Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new("heavy.test" => "127.0.0.1:#{@port}")),
      seal: Orvant::Browser::Seal.new(own: Orvant::Hosts.new(%w[heavy.test]), signatures: []),
      path: Settings["ORVANT_BROWSER"]
    )
    took, = Scratch.seconds { [*PAGES.keys, "a body without end"].each { |name| look(browser, name) } }
    puts format("  %d pages in %.0f s, at most %d MB", PAGES.size + 1, took, @most)
    browser.quit
  end

  private

  def look(browser, name)
    held = 0
    watching = Thread.new do
      loop {
        held = [held, memory(browser.pid)].max
        sleep 0.1
      }
    end
    path = (name == "a body without end") ? ENDLESS : "/#{PAGES.keys.index(name)}"
    took, visit = Scratch.seconds { Orvant::Browser::PageVisit.watch(browser, "http://heavy.test#{path}", []) }
    watching.kill
    @most = [@most.to_i, held].max
    puts format("  %-24s %6.1f s %6d MB  %s", name, took, held, visit.reason || "looked at")
  end

  def memory(pid)
    return 0 unless pid

    Dir["/proc/[0-9]*/stat"].sum do |file|
      (File.read(file).sub(/.*\) /, "").split[2].to_i == pid) ? File.read(file.sub(/stat\z/, "status"))[/RssAnon:\s+(\d+)/, 1].to_i / 1024 : 0
    rescue SystemCallError
      0
    end
  end

  def serve
    server = TCPServer.new("127.0.0.1", 0)
    @port = server.addr[1]
    Thread.new { loop { Thread.new(server.accept) { |client| answer(client) } } }
  end

  def answer(client)
    path = client.gets.to_s.split[1].to_s
    nil until client.gets.to_s.strip.empty?
    client.write("HTTP/1.1 200 OK\r\nContent-Type: text/html\r\nConnection: close\r\n\r\n")
    loop { client.write("<p>#{"x" * 100_000}</p>\n") } if path == ENDLESS
    client.write("<!doctype html><title>T</title><body>#{PAGES.values[path[/\d+/].to_i]}")
  rescue SystemCallError
    nil
  ensure
    client.close
  end
end
