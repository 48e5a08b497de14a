# frozen_string_literal: true

require "open3"

# Pages that ask for more than a page is given end, and what is said of them says so; browsers end with whoever
# began them.
RSpec.describe Orvant::Browser::Weight do
  pages = {
    "/memory" => "<script>const all = []; setInterval(() => { const a = new Uint8Array(3e7); for (let i = 0; i < 3e7; i += 4096) a[i] = 1; all.push(a) }, 20)</script>",
    "/large" => "<script>const all = new Uint8Array(5e8); for (let i = 0; i < 5e8; i += 4096) all[i] = 1</script>",
    "/loop" => "<script>for (;;) {}</script>",
    "/plain" => "<h1>A page</h1>"
  }

  around do |example|
    server = TCPServer.new("127.0.0.1", 0)
    @port = server.addr[1]
    serving = Thread.new { loop { Thread.new(server.accept) { |client| answer(client, pages) } } }
    example.run
  ensure
    serving.kill
    server.close
  end

  def sealed(options = {})
    Orvant::Browser::Sealed.new(
      guard: Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new("heavy.test" => "127.0.0.1:#{@port}")),
      seal: Orvant::Browser::Seal.new(own: Orvant::Hosts.new(%w[heavy.test]), signatures: []),
      quiet: 0.3,
      options: options
    )
  end

  def answer(client, pages)
    path = client.gets.to_s.split[1].to_s
    nil until client.gets.to_s.strip.empty?
    client.write("HTTP/1.1 200 OK\r\nContent-Type: text/html\r\nConnection: close\r\n\r\n")
    loop { client.write("<p>#{"x" * 100_000}</p>\n") } if path == "/endless"
    client.write("<!doctype html><title>T</title><body>#{pages[path]}")
  rescue SystemCallError
    nil
  ensure
    client.close
  end

  it "ends a page that fills the memory, that does not answer, or whose body does not end, and no other" do
    stub_const("Orvant::Browser::Sealed::PULSE", 0.5)
    stub_const("Orvant::Browser::Sealed::ANSWER", 3)
    stub_const("Orvant::Browser::Gate::MOST_VISIT", 4_000_000)
    browser = sealed
    reasons = %w[/plain /memory /loop /endless /plain].map { |path| Orvant::Browser::PageVisit.watch(browser, "http://heavy.test#{path}", []).reason }
    expect(reasons).to match([nil, /too heavy/, /does not answer/, /too heavy/, nil])
  ensure
    browser&.quit
  end

  it "ends the heaviest page of several browsers that hold too much together, and no other family's" do
    stub_const("Orvant::Browser::Weight::MOST_PAGE", 100_000 * 1_048_576)
    stub_const("Orvant::Browser::Weight::MOST_ALL", 100_000 * 1_048_576)
    stub_const("Orvant::Browser::Weight::MOST_FAMILY", 700 * 1_048_576)
    stub_const("Orvant::Browser::Weight::SELDOM", 1)
    browsers = %w[one one another].map { |family| sealed(Orvant::Browser::Weight::FAMILY => "#{family}-#{Process.pid}") }
    reasons = browsers.zip(%w[/memory /plain /large]).map { |browser, path|
      Thread.new { Orvant::Browser::PageVisit.watch(browser, "http://heavy.test#{path}", []).reason }
    }.map(&:value)
    expect(reasons).to match([/too heavy.*together/, nil, nil])
  ensure
    browsers&.each(&:quit)
  end

  it "ends a browser with its process, however that ends" do
    script = <<~RUBY
      browser = Orvant::Browser::Sealed.new(guard: Orvant::Net::Guard.new, seal: Orvant::Browser::Seal.new(own: Orvant::Hosts.new([]), signatures: []))
      Thread.new { browser.start }.join # A thread that ends meanwhile takes nothing with it.
      $stdout.sync = true
      puts browser.pid
      sleep
    RUBY
    Open3.popen2(RbConfig.ruby, "-rbundler/setup", "-I#{File.join(ROOT, "lib")}", "-rorvant", "-e", script) do |_, out, process|
      pid = out.gets.to_i
      expect(File.read("/proc/#{pid}/cmdline")).to include("--headless")
      Process.kill("KILL", process.pid)
      Timeout.timeout(20) { Thread.pass while File.exist?("/proc/#{pid}") && !File.read("/proc/#{pid}/cmdline").empty? }
    end
  end
end
