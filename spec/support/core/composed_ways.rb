# frozen_string_literal: true

require_relative "ways"

# Ways put together by chance out of what relays and pages do: one to four pages that move their visitor on,
# each at its moment, beside much that moves nobody, and a landing page that may rewrite its address.
class ComposedWay
  # How a script sends its visitor to an address.
  GOES = [
    "location = TO", "location.href = TO", "location.replace(TO)", "location.assign(TO)", "window.open(TO, '_self')", "navigation.navigate(TO)",
    "top.document.location = TO", "self['loc' + 'ation'] = TO", "document.defaultView.location.assign(TO)",
    "{ const a = document.createElement('a'); a.href = TO; document.body.append(a); a.click() }",
    "{ const a = document.createElement('a'); a.href = TO; a.innerHTML = '<b>x</b>'; document.body.append(a); a.firstChild.dispatchEvent(new MouseEvent('click', {bubbles: true, cancelable: true})) }",
    "{ const m = document.createElement('meta'); m.httpEquiv = 'refresh'; m.content = '0;url=' + TO; document.head.append(m) }",
    "{ const f = document.createElement('form'); const u = new URL(TO, location); f.action = u; for (const [k, v] of u.searchParams) { const i = document.createElement('input'); i.name = k; i.value = v; f.append(i) } document.body.append(f); f.submit() }",
    "{ const f = document.createElement('form'); f.method = 'post'; f.action = TO; document.body.append(f); f.requestSubmit() }"
  ].freeze
  # When it does.
  MOMENTS = [
    "DO", "addEventListener('DOMContentLoaded', () => { DO })", "onload = () => { DO }", "setTimeout(() => { DO })", "setTimeout(() => { DO }, 300)", "setTimeout(() => { DO }, 1500)",
    "setTimeout(() => { DO }, 4000)", "fetch('/aux/json').then((r) => r.json()).then(() => { DO })", "fetch('/aux/none').then((r) => { if (!r.ok) { DO } })",
    "requestAnimationFrame(() => requestAnimationFrame(() => { DO }))", "Promise.resolve().then(() => { DO })", "{ const i = new Image(); i.onload = () => { DO }; i.src = '/aux/dot.gif' }",
    "{ let left = 3; const t = setInterval(() => { if (!--left) { clearInterval(t); DO } }, 500) }", "requestIdleCallback(() => { DO })", "queueMicrotask(() => setTimeout(() => { DO }, 200))",
    "new MutationObserver(() => { DO }).observe(document.documentElement, {childList: true, subtree: true}); setTimeout(() => document.body.append('x'), 700)",
    "(async () => { await new Promise((r) => setTimeout(r, 800)); await fetch('/aux/json'); await new Promise((r) => setTimeout(r, 800)); DO })()",
    "{ const x = new XMLHttpRequest(); x.open('GET', '/aux/json'); x.onload = () => { DO }; x.send() }", "{ const c = new MessageChannel(); c.port1.onmessage = () => { DO }; c.port2.postMessage(1) }",
    "addEventListener('pageshow', () => setTimeout(() => { DO }, 100))", "if (document.visibilityState === 'visible') setTimeout(() => { DO }, 600)",
    "document.addEventListener('readystatechange', () => { if (document.readyState === 'complete') { DO } })", "document.fonts.ready.then(() => { DO })"
  ].freeze
  # What stands beside it and moves nobody.
  BESIDE = [
    "<noscript><meta http-equiv=refresh content='0;url=/no?noscript'></noscript>", "<!-- <meta http-equiv=refresh content='0;url=/no?comment'> -->",
    "<script>addEventListener('click', () => { location = '/no?click' })</script>", "<script>setTimeout(() => { location = '/no?late' }, 60000)</script>",
    "<script type='text/template'>location = '/no?template'</script>", "<iframe hidden src='/aux/own.html'></iframe>", "<iframe sandbox='allow-scripts' src='/aux/top.html'></iframe>",
    "<form action=/no?form><input name=q><button>Go</button></form>", "<a href=/no?link onclick='return false'>Link</a>", "<script>document.cookie = 'seen=1;max-age=99'</script>",
    "<script>fetch('/aux/json', {keepalive: true})</script>", "<img src=/aux/dot.gif onerror=\"location = '/no?picture'\">", "<script async src=/aux/stay.js></script>",
    "<script>setInterval(() => { window.tick = (window.tick || 0) + 1 }, 1000)</script>", "<script>throw new Error('broken')</script>",
    "<style>@keyframes k { to { opacity: .5 } } h1 { animation: k 1s infinite }</style>", "<template><script>location = '/no?within'</script></template>",
    "<script>if (false) location = '/no?never'</script>", "<textarea><script>location = '/no?text'</script></textarea>", "<script>try { localStorage.count = 1 + Number(localStorage.count || 0) } catch {}</script>",
    "<link rel=prefetch href='/no?prefetch'>", "<script nomodule>location = '/no?nomodule'</script>", "<details><summary>More</summary><a href=/no>x</a></details>"
  ].freeze
  # What a landing page does to its own address.
  REWRITES = [
    "", "", "history.replaceState(null, '', location.pathname + '?clean=1')", "history.pushState(null, '', '/route' + location.search)", "location.hash = '#/route'",
    "{ const u = new URL(location); [...u.searchParams.keys()].filter((k) => k.startsWith('utm_')).forEach((k) => u.searchParams.delete(k)); history.replaceState(null, '', u) }",
    "history.replaceState(null, '', '?ref=' + encodeURIComponent(document.referrer))", "if (!document.cookie.includes('been=1')) { document.cookie = 'been=1'; location.reload() }",
    "if (!sessionStorage.been) { sessionStorage.been = 1; location = location.href.replace(/#.*/, '') + '&again=1' }"
  ].freeze
  KINDS = %i[status status status refresh meta script script script script frame race gate rewrite file handler].freeze
  STATUSES = ["301 Moved", "302 Found", "303 See", "307 Temporary", "308 Permanent"].freeze
  POLICIES = [nil, nil, "no-referrer", "origin", "unsafe-url", "strict-origin", "same-origin"].freeze
  TYPES = ["text/html", "text/html; charset=iso-8859-1", "text/html; charset=utf-8", "text/html;charset=windows-1251"].freeze
  COOKIES = ["; Path=/", "; SameSite=None", "; SameSite=Lax", "; Max-Age=0", "; Domain=a.example", "; SameSite=Strict", "; Secure", "; HttpOnly"].freeze
  TAILS = ["", "", "", "&name=%C3%B8y", "#part", "&empty=", "&plus=a+b", "&dup=1&dup=2", "&pct=%2F%25", ";matrix=1"].freeze
  Step = Struct.new(:kind, :status, :go, :moment, :delay, :form, :beside, :policy, :cookie, :rewrite, :type, :tail, keyword_init: true)

  attr_reader :hosts, :steps

  def initialize(seed)
    @seed = seed
    @random = Random.new(seed)
    @hosts = Array.new(5) { pick(%w[a b c sub.a]) }
    @steps = Array.new(1 + @random.rand(4)) { step }
    @landing = step
  end

  def address = "http://#{@hosts.first}.example/x/#{@seed}/0?utm_source=x"

  # @param number [Integer] of the page, from 0
  # @param request [String]
  # @return [String] what it answers
  def answer(number, request)
    step = @steps[number] or return page(@landing, "<script>#{@landing.moment.sub("DO") { @landing.rewrite }}</script>")
    to = target(number + 1, step)
    move = moving(step, to)
    case step.kind
    when :status then RawServer.redirect(to, status: step.status, **policy(step))
    when :refresh then page(step, "", Refresh: "#{step.delay}; url=#{to}")
    when :meta then page(step, "<meta http-equiv=refresh content=\"#{step.delay};url=#{to}\">")
    when :frame then page(step, "<iframe srcdoc=\"<script>#{step.moment.sub("DO", "top.location = '#{to}'").gsub("\"", "&quot;")}</script>\"></iframe>")
    when :race then page(step, "<script>#{move}</script><script>setTimeout(() => { location = '/no?second' }, 2700)</script>")
    when :gate then gate(number, request, step, move)
    when :rewrite then page(step, "<script>history.replaceState(null, '', location.pathname + '?rewritten=1#{step.tail}')</script><script>#{move}</script>")
    when :file then page(step, "<script #{%w[async defer type=module][@seed % 3]} src='/file/#{@seed}/#{number}.js'></script>")
    when :handler then page(step, "<img src=/aux/dot.gif onload=\"#{move.gsub("\"", "&quot;")}\">")
    else page(step, "<script>#{move}</script>")
    end
  end

  # @param number [Integer] of the page that asks for it
  # @return [String] a script
  def file(number)
    step = @steps.fetch(number)
    sleep(1) if @seed.even?
    RawServer.page(moving(step, target(number + 1, step)), "Content-Type": "text/javascript")
  end

  def to_s
    said = @steps.map { |step| [step.kind, MOMENTS.index(step.moment), GOES.index(step.go), step.delay, step.form, step.cookie, step.policy, step.tail].join(" ") }
    [*said, "#{MOMENTS.index(@landing.moment)} #{@landing.rewrite}"].join(" | ")
  end

  private

  def pick(list) = list[@random.rand(list.size)]

  def step
    Step.new(kind: pick(KINDS), status: pick(STATUSES), go: pick(GOES), moment: pick(MOMENTS), delay: pick([0, 0, 1, 3]), form: pick(%i[whole whole scheme path]),
      beside: Array.new(@random.rand(4)) { pick(BESIDE) }, policy: pick(POLICIES), cookie: pick(COOKIES), rewrite: pick(REWRITES), type: pick(TYPES), tail: pick(TAILS))
  end

  def target(number, step)
    path = "/x/#{@seed}/#{number}?utm_source=x&utm_campaign=c#{@seed}#{step.tail}"
    {whole: "http://#{@hosts[number]}.example#{path}", scheme: "//#{@hosts[number]}.example#{path}", path: path}.fetch(step.form)
  end

  def moving(step, to) = step.moment.sub("DO") { step.go.gsub("TO", "'#{to}'") }

  def policy(step) = step.policy ? {"Referrer-Policy": step.policy} : {}

  def page(step, text, **headers)
    RawServer.page("<!doctype html><title>t</title><body>#{Ways::INERT}#{step.beside.join("\n")}#{text}", "Content-Type": step.type, **policy(step), **headers)
  end

  # Lets on who brings the cookie that it has given.
  def gate(number, request, step, move)
    name = "gate#{@seed}x#{number}"
    return page(step, "<script>#{move}</script>") if request.match?(/^cookie:.*#{name}=1/i)
    return page(step, "<p>Without the cookie</p>") if request.include?("again=1")

    RawServer.redirect("/x/#{@seed}/#{number}?again=1", status: step.status, "Set-Cookie": "#{name}=1#{step.cookie}")
  end
end
