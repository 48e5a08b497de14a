# frozen_string_literal: true

require "json"
require "openssl"

# A small world in which a page sends to others by every way that browsers have: to a host that only collects,
# and to one that serves the page's script as well. Each sending is told by its `ev`: way, moment and host.
module Sending
  add = ->(tag, more = "") { "const e=document.createElement('#{tag}');#{more};document.body.append(e)" }
  styled = ->(rule) { "const e=document.createElement('div');e.textContent='x';e.style.cssText='width:9px;height:9px;'+`#{rule}`;document.body.append(e)" }
  form = ->(more) { "const f=document.createElement('form');f.action=u;f.target=room();f.innerHTML='<input name=ev><button>go</button>';f.elements.ev.value=ev(u);#{more};document.body.append(f);f.submit()" }
  framed = ->(markup) { "const e=document.createElement('iframe');e.srcdoc=`#{markup}`;document.body.append(e)" }
  worker = ->(code) { "new Worker(URL.createObjectURL(new Blob([`#{code}`],{type:'text/javascript'})))" }
  shared = ->(code) { "new SharedWorker('/shared.js?'+encodeURIComponent(`#{code}`))" }
  link = ->(more) { "const e=document.createElement('link');#{more};e.href=u;document.head.append(e)" }

  # name => script, in which `u` is where to send
  WAYS = {
    "picture" => "new Image().src=u", "picture in markup" => "document.body.insertAdjacentHTML('beforeend',`<img src='${u}'>`)",
    "picture by srcset" => add.call("img", "e.srcset=u+' 1x'"), "picture of picture" => "document.body.insertAdjacentHTML('beforeend',`<picture><source srcset='${u}'><img></picture>`)",
    "picture with cors" => add.call("img", "e.crossOrigin='use-credentials';e.src=u"), "lazy picture" => add.call("img", "e.loading='lazy';e.src=u"),
    "picture button" => add.call("input", "e.type='image';e.src=u"), "picture decoded" => "const e=new Image();e.src=u;e.decode().catch(()=>0)",
    "background" => styled.call("background-image:url('${u}')"), "background of body" => add.call("table", "e.setAttribute('background',u);e.innerHTML='<tr><td>x'"),
    "list sign" => add.call("li", "e.textContent='x';e.style.listStyleImage=`url('${u}')`"), "border" => styled.call("border:1px solid;border-image:url('${u}') 1"),
    "mask" => styled.call("mask-image:url('${u}')"), "image set" => styled.call("background-image:image-set(url('${u}') 1x)"), "shape" => styled.call("float:left;shape-outside:url('${u}')"),
    "content of a rule" => "const e=document.createElement('style');e.textContent=`#x${Math.random().toString(36).slice(2)},body::after{content:url('${u}')}`;document.head.append(e)",
    "svg image" => "document.body.insertAdjacentHTML('beforeend',`<svg><image href='${u}'/></svg>`)",
    "svg filter" => "document.body.insertAdjacentHTML('beforeend',`<svg width=9 height=9><filter id=f${ev(u)}><feImage href='${u}'/></filter><rect width=9 height=9 filter='url(#f${ev(u)})'/></svg>`)",
    "poster" => add.call("video", "e.poster=u"), "video" => add.call("video", "e.src=u;e.load()"), "audio" => add.call("audio", "e.preload='auto';e.src=u"),
    "source of video" => "document.body.insertAdjacentHTML('beforeend',`<video preload=auto><source src='${u}'></video>`)",
    "object" => add.call("object", "e.type='image/png';e.data=u"), "embed" => add.call("embed", "e.type='image/png';e.src=u"),
    "fetch" => "fetch(u)", "fetch without cors" => "fetch(u,{mode:'no-cors'})", "fetch post" => "fetch(u,{method:'POST',body:'x'})",
    "fetch json" => "fetch(u,{method:'POST',headers:{'content-type':'application/json'},body:'{\"a\":1}'})", "fetch form" => "fetch(u,{method:'POST',body:new URLSearchParams({a:1})})",
    "fetch multipart" => "const b=new FormData();b.append('a','1');fetch(u,{method:'POST',body:b})", "fetch blob" => "fetch(u,{method:'POST',body:new Blob(['x'])})",
    "fetch put" => "fetch(u,{method:'PUT',body:'x'})", "fetch delete" => "fetch(u,{method:'DELETE'})", "fetch patch" => "fetch(u,{method:'PATCH',body:'x'})",
    "fetch head" => "fetch(u,{method:'HEAD'})", "fetch with cookies" => "fetch(u,{credentials:'include'})", "fetch with a header" => "fetch(u,{headers:{'x-own':'1'}})",
    "fetch that lives on" => "fetch(u,{keepalive:true,mode:'no-cors',method:'POST',body:'x'})", "fetch that lives on, with cors" => "fetch(u,{keepalive:true})",
    "fetch of a request" => "fetch(new Request(u,{method:'POST',body:'x',mode:'no-cors'}))", "fetch first" => "fetch(u,{priority:'high',mode:'no-cors'})",
    "fetch of a stream" => "fetch(u).then(r=>r.body.getReader().read())", "fetch within a tick" => "Promise.resolve().then(()=>fetch(u))",
    "request object" => "const x=new XMLHttpRequest();x.open('GET',u);x.send()", "request object, post" => "const x=new XMLHttpRequest();x.open('POST',u);x.send('x')",
    "request object, at once" => "try{const x=new XMLHttpRequest();x.open('POST',u,false);x.send('x')}catch(e){}",
    "request object with a header" => "const x=new XMLHttpRequest();x.open('POST',u);x.setRequestHeader('x-own','1');x.withCredentials=true;x.send('{}')",
    "beacon" => "navigator.sendBeacon(u,'x')", "beacon without a body" => "navigator.sendBeacon(u)", "beacon blob" => "navigator.sendBeacon(u,new Blob(['{}'],{type:'application/json'}))",
    "beacon form" => "const b=new FormData();b.append('a','1');navigator.sendBeacon(u,b)", "beacon parameters" => "navigator.sendBeacon(u,new URLSearchParams({a:1}))",
    "beacon bytes" => "navigator.sendBeacon(u,new Uint8Array([1,2]))", "event stream" => "new EventSource(u)", "event stream with cookies" => "new EventSource(u,{withCredentials:true})",
    "socket" => "new WebSocket(u.replace(/^http/,'ws'))", "socket with a protocol" => "new WebSocket(u.replace(/^http/,'ws'),'own')",
    "ping of a link" => add.call("a", "e.href='#x';e.ping=u;e.textContent='x'") + ";e.click()",
    "form" => form.call("f.method='post'"), "form, get" => form.call(""), "form, multipart" => form.call("f.method='post';f.enctype='multipart/form-data'"),
    "form, plain" => form.call("f.method='post';f.enctype='text/plain'"), "form to a new tab" => form.call("f.method='post';f.target='_blank'"), "form to a new tab, get" => form.call("f.target='_blank'"),
    "form by its button" => form.call("f.method='post';f.action='/own';const b=f.querySelector('button');b.formAction=u;b.formTarget=f.target;b.click();f.target='never'")
      .sub(";f.submit()", ""),
    "window" => "window.open(u)", "window that goes at once" => "const w=open(u);setTimeout(()=>w&&w.close(),20)",
    "link to a new tab" => add.call("a", "e.href=u;e.target='_blank';e.textContent='x'") + ";e.click()",
    "own window" => "window.open('/window?'+encodeURIComponent(u))", "empty window" => "const w=window.open('');w&&(new w.Image().src=u)",
    "prefetch" => link.call("e.rel='prefetch'"), "preload of a picture" => link.call("e.rel='preload';e.as='image'"), "preload of data" => link.call("e.rel='preload';e.as='fetch';e.crossOrigin=''"),
    "icon" => link.call("e.rel='icon'"), "prefetch by rules" => "const s=document.createElement('script');s.type='speculationrules';s.textContent=JSON.stringify({prefetch:[{source:'list',urls:[u]}]});document.head.append(s)",
    "worker" => worker.call("fetch('${u}',{mode:'no-cors'})"), "request object of a worker" => worker.call("const x=new XMLHttpRequest();x.open('POST','${u}');x.send('x')"),
    "socket of a worker" => worker.call("new WebSocket('${u.replace(/^http/,'ws')}')"), "event stream of a worker" => worker.call("new EventSource('${u}')"),
    "worker of a worker" => worker.call("new Worker(URL.createObjectURL(new Blob([\"fetch('${u}',{mode:'no-cors'})\"])))"),
    "shared worker" => shared.call("fetch('${u}',{mode:'no-cors'})"), "socket of a shared worker" => shared.call("new WebSocket('${u.replace(/^http/,'ws')}')"),
    "request object of a shared worker" => shared.call("const x=new XMLHttpRequest();x.open('POST','${u}');x.send('x')"),
    "service worker" => "navigator.serviceWorker&&navigator.serviceWorker.register('/service.js?'+encodeURIComponent(u),{scope:'/s'+ev(u).replace(/\\W/g,'')})",
    "cache" => "window.caches&&caches.open('a').then(c=>c.add(u)).catch(()=>0)",
    "frame with a picture" => framed.call("<img src='${u}'>"), "frame with a beacon" => framed.call("<script>navigator.sendBeacon('${u}')<\\/script>"),
    "sandboxed frame" => "const e=document.createElement('iframe');e.sandbox='allow-scripts';e.srcdoc=`<script>fetch('${u}',{mode:'no-cors'})<\\/script>`;document.body.append(e)",
    "frame of data" => add.call("iframe", "e.src='data:text/html,'+encodeURIComponent(`<img src='${u}'>`)"), "frame of a blob" => add.call("iframe", "e.src=URL.createObjectURL(new Blob([`<img src='${u}'>`],{type:'text/html'}))"),
    "empty frame" => add.call("iframe") + ";new e.contentWindow.Image().src=u", "own frame" => add.call("iframe", "e.src='/window?'+encodeURIComponent(u)"),
    "frame that is taken away" => add.call("iframe", "e.srcdoc=`<script>addEventListener('pagehide',()=>navigator.sendBeacon('${u}'))<\\/script>`;e.onload=()=>e.remove()"),
    "violated policy" => add.call("iframe", "e.src='/violating?'+encodeURIComponent(u)"), "later fetch" => "window.fetchLater?fetchLater(u,{activateAfter:0}):0"
  }.freeze
  MOMENTS = %w[load click late leave].freeze
  HOSTS = {"only" => "collect.probe.example", "both" => "vendor.probe.example"}.freeze
  SITE = "www.probe.example"
  SCRIPT = <<~JS
    function ev(u) { return new URL(u).searchParams.get('ev') }
    function room() { const e = document.createElement('iframe'); e.name = 'r' + Math.random(); document.body.append(e); return e.name }
    function sendAll(moment) {
      if (sendAll[moment]) return
      sendAll[moment] = true
      for (const [host, name] of Object.entries(HOSTS)) WAYS.slice(...PART).forEach((way, place) => {
        const number = PART[0] + place
        try { new Function('u', way)(`${location.protocol}//${name}/c?ev=${number}-${moment}-${host}`) } catch (e) { }
      })
    }
    addEventListener('load', () => { sendAll('load'); setTimeout(() => sendAll('late'), 5000) })
    document.addEventListener('click', (event) => event.target.id === 'go' && sendAll('click'))
    addEventListener('pagehide', () => sendAll('leave'))
  JS
  SIGNATURE = {
    "tag" => "probe", "name" => "Probe", "purpose" => "analytics", "markup" => [{"host" => HOSTS["both"], "path" => "/tag.js"}],
    "wire" => HOSTS.values.map { |host| {"host" => host, "path" => "/c"} }, "fields" => {"event" => "ev"}, "events" => {"page_view" => [], "conversion" => []}
  }.freeze

  # So many ways send from one page: a busy machine has them sent before the page is no longer waited for.
  ON_A_PAGE = 24

  module_function

  # @return [Array<String>] the numbers of the ways of each page: from, and up to
  def slices = (0...WAYS.size).step(ON_A_PAGE).map { |from| "#{from}-#{from + ON_A_PAGE}" }

  # @param request [String] as a RawServer has it
  # @return [String] the world's answer
  def answer(request)
    path, query = request.split[1].split("?", 2)
    sent = query.to_s.gsub(/%([0-9A-Fa-f]{2})/) { $1.hex.chr }
    case path
    when "/"
      RawServer.page("<title>Sending</title><body><p>A page with something to read</p><button id=go>go</button><script src='//#{HOSTS["both"]}/tag.js'></script>")
    when "/tag.js"
      script("const PART=location.search.slice(1).split('-').map(Number), HOSTS=#{JSON.generate(HOSTS)}, WAYS=#{JSON.generate(WAYS.values)};#{SCRIPT}")
    when "/shared.js" then script(sent)
    when "/service.js" then script("self.addEventListener('install',()=>fetch('#{sent}',{mode:'no-cors'}))")
    when "/window" then RawServer.page("<title>w</title><img src='#{sent}'>")
    when "/violating"
      RawServer.page("<title>v</title><script>1</script>", "Content-Security-Policy" => "script-src 'none'; report-uri #{sent}")
    else RawServer.page("own")
    end
  end

  # @return [String]
  def script(text) = RawServer.page(text, "Content-Type" => "text/javascript")

  # @param number [Integer]
  # @return [String] of a way
  def name(number) = WAYS.keys.fetch(number)

  # @param directory [String] where a PEM file goes that makes the certificate trusted
  # @return [Array(OpenSSL::SSL::SSLContext, String)] of a server that has all names of the world, and the
  #   file
  def secure(directory)
    key = OpenSSL::PKey::EC.generate("prime256v1")
    one = OpenSSL::X509::Certificate.new
    one.version = 2
    one.serial = rand(1..2**60)
    one.subject = one.issuer = OpenSSL::X509::Name.new([["CN", "Probe"]])
    one.public_key = key
    one.not_before, one.not_after = Time.now - 86_400, Time.now + 86_400
    one.add_extension(OpenSSL::X509::ExtensionFactory.new.create_extension("subjectAltName", "DNS:*.probe.example"))
    one.sign(key, "SHA256")
    File.write(file = File.join(directory, "probe.pem"), one.to_pem)
    [OpenSSL::SSL::SSLContext.new.tap { |context| context.add_certificate(one, key) }, file]
  end
end
