# frozen_string_literal: true

# Landing pages as sites have them: full of scripts that stay, one page in fifty whose script moves its
# visitors on.
PAGES = Hash.new do |pages, number|
  inline = Array.new(12) { |index| "<script>window.part#{index} = {page: #{number}, at: Date.now(), query: location.search.slice(1, 40)}</script>" }.join
  files = Array.new(3) { |index| "<script src=/file#{index}.js></script>" }.join
  moves = (number % 50).zero? ? "<script>setTimeout(() => location.replace('/arrived/#{number}' + location.search), 400)</script>" : ""
  text = "Day passes, guided walks and group bookings between the islands, page #{number}. " * 40
  pages[number] = "<!doctype html><html lang=en><head><title>Page #{number}</title>#{files}</head><body onload='window.loaded = 1'><h1>Page #{number}</h1>#{inline}<p>#{text}</p>#{moves}</body></html>"
end

run(lambda do |env|
  path = env["PATH_INFO"]
  case path
  when %r{\A/go} then [302, {"location" => Rack::Utils.parse_query(env["QUERY_STRING"])["to"]}, []]
  when %r{\A/page/(\d+)} then [200, {"content-type" => "text/html; charset=utf-8"}, [PAGES[$1.to_i]]]
  when %r{\.js\z} then [200, {"content-type" => "text/javascript", "cache-control" => "max-age=60"}, ["window.files = (window.files || 0) + 1; setTimeout(() => { window.late = 1 }, 900)"]]
  else [200, {"content-type" => "text/html; charset=utf-8"}, ["<!doctype html><title>Arrived</title><h1>Arrived at #{Rack::Utils.escape_html(path)}</h1>"]]
  end
end)
