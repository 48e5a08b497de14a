# frozen_string_literal: true

require_relative "../app_helper"

# What keeps strangers out and what somebody knows to themselves: tries, second factors, links, keys.
RSpec.describe "What is kept from others", :api do
  include_context "people"

  def enter(browser: nil, cookie: nil, machine: "127.0.0.1", **wish)
    env = {:method => "POST", :input => JSON.generate({mail: "ann@example.test", password: secret, **wish}), "HTTP_HOST" => "127.0.0.1", "REMOTE_ADDR" => machine, "HTTP_COOKIE" => cookie}.compact
    Api.call(Rack::MockRequest.env_for("http://127.0.0.1/api/session", env)).then { |status, _, parts| [status, JSON.parse(parts.each.to_a.join)] }
  end

  def wrong(**wish) = enter(password: "not the right one", **wish)

  def elsewhere(person, role)
    there = Workspace.find_by(name: "there") || Founding.call(title: "There", own_hosts: ["b.test"])
    Membership.find_or_initialize_by(person: person, workspace: there).tap { |one| one.update!(role: role) }
  end

  describe Tries, :still do
    it "says the same of a wrong password and an unknown address, and lets whoever was wrong wait longer and longer" do
      found
      expect(wrong).to eq(wrong(mail: "nobody@example.test"))
      expect(Array.new(7) { wrong.first }).to eq([403, 403, 403, 403, 429, 429, 429])
      expect(enter).to match([429, a_hash_including("detail" => /Try again in 1 second/)])
      # The pause is over: the next wrong one makes a longer one, the right one ends all of it.
      Tries::Row.update_all(next_at: Time.now.utc)
      expect([wrong.first, wrong.last["detail"]]).to match([403, /2 seconds/])
      Tries::Row.update_all(next_at: Time.now.utc)
      expect([enter.first, wrong.first]).to eq([200, 403])
    end

    it "keeps nobody out by what strangers try elsewhere" do
      found
      known = @cookie[/orvant_known=([^;,"]+)/, 1]
      200.times do |number|
        described_class.count("mail:ann@example.test", machine: "203.0.113.#{number}") { nil }
      rescue Problem
        nil
      end
      expect(Tries::Row.maximum(:next_at)).to be < 70.seconds.from_now
      from = ->(cookie) { enter(cookie: cookie, machine: "192.0.2.7").first }
      expect([from.call(nil), from.call("orvant_known=1.#{"0" * 64}"), from.call("orvant_known=#{known}")]).to eq([429, 429, 200])
    end

    it "counts before it reckons: of many at once no more are tried than one after the other" do
      found
      reckoned = Queue.new
      allow(Password).to receive(:matches?) { reckoned << 1 && Thread.pass && false }
      Array.new(30) { Thread.new { ActiveRecord::Base.connection_pool.with_connection { wrong } } }.each(&:join)
      expect(reckoned.size).to eq(5)
    end

    it "takes all of a network of version 6 for one machine" do
      60.times do |number|
        described_class.count("mail:#{number}@example.test", machine: "2001:db8::#{number.to_s(16)}") { nil }
      rescue Problem
        nil
      end
      expect { described_class.count("mail:x@example.test", machine: "2001:db8::ffff") { 1 } }.to raise_error(Problem, /Try again/)
      expect(described_class.count("mail:x@example.test", machine: "2001:db8:0:1::1") { 1 }).to eq(1)
    end
  end

  describe Password do
    it "takes any letters, counts all of it, and knows those of earlier versions" do
      long = "#{"ü" * 40} wälle aus regen"
      expect(ask("POST", "/api/owner", {name: "Ann", mail: "ann@example.test", password: long}).first).to eq(201)
      expect([long, long.unicode_normalize(:nfd), "#{long}x", "#{long[0..-2]}x"].map { |text| enter(password: text).first }).to eq([200, 200, 403, 403])
      Person.update_all(password_digest: BCrypt::Password.create(secret, cost: 4).to_s)
      expect([enter(password: "#{secret}x").first, enter.first, Person.first.password_digest[0, 7], enter.first]).to eq([403, 200, "sha256:", 200])
    end

    it "is not the workspace's name either" do
      ann = found
      bob = ask("POST", "/api/workspaces/here/invitations", {mail: "bob@example.test", role: "reader"}, browser: ann).last
      Workspace.update_all(title: "Northern Lighthouse")
      ask("POST", link_of(bob), {name: "Bob", password: secret})
      answer = ask("PATCH", "/api/account", {password: "Lighthouse-77x", current_password: secret}, browser: token).last
      expect(answer["detail"]).to include("tried first")
      expect { Person.find_by!(name: "Bob").hold_password("a lighthouse nobody paints") }.not_to raise_error
    end
  end

  describe SignIn do
    it "ends where nobody comes back, is shown to its own person, and ended by them alone" do
      browser = found
      enter
      other = SignIn.last
      mine = -> { ask("GET", "/api/account/sign-ins", browser: browser).last["sign_ins"] }
      expect(mine.call.map { |one| one["current"] }).to contain_exactly(true, false)
      bob = join("bob@example.test", "reader", by: browser)
      expect(ask("DELETE", "/api/account/sign-ins/#{other.id}", browser: bob).first).to eq(404)
      expect([ask("DELETE", "/api/account/sign-ins/#{other.id}", browser: browser).first, mine.call.size]).to eq([204, 1])
      described_class.update_all(seen_at: 8.days.ago)
      expect(ask("GET", "/api/workspaces", browser: browser).first).to eq(401)
    end
  end

  describe SecondFactor do
    def code(key, at = Time.now) = ROTP::TOTP.new(key).at(at)

    # @return [Array(String, Array<String>)] its key, and recovery codes
    def turn_on(browser)
      _, begun = ask("POST", "/api/account/second-factor", {current_password: secret}, browser: browser)
      _, on = ask("POST", "/api/account/second-factor/confirm", {code: code(begun["secret"], Time.now - 30)}, browser: browser)
      [begun["secret"], on["recovery_codes"]]
    end

    it "is asked for beside the password, each code once, a recovery code in its place" do
      browser = found
      expect(ask("POST", "/api/account/second-factor", {current_password: "not mine, this one"}, browser: browser).first).to eq(403)
      key, recovery = turn_on(browser)
      expect(enter).to match([401, a_hash_including("kind" => "second_factor")])
      now = code(key)
      expect([enter(code: now.next[-6..]).first, enter(code: now).first, enter(code: now).first]).to eq([403, 200, 403])
      expect([enter(code: recovery[0].upcase).first, enter(code: recovery[0]).first, wrong(code: recovery[1]).first]).to eq([200, 403, 403])
      expect(Person.first.totp_secret).to start_with(Secret::MARK)
      expect(ask("POST", "/api/account/second-factor/turn-off", {current_password: secret, code: recovery[2]}, browser: browser).last["on"]).to be(false)
      expect(enter.first).to eq(200)
    end

    it "is guessed no oftener than a password, by a right password in between or by a link that is taken back each time", :still do
      ann = found
      turn_on(join("bob@example.test", "reader", by: ann))
      bob = {mail: "bob@example.test"}
      statuses = Array.new(4) { [enter(code: "000000", **bob).first, enter(**bob).first] }.flatten
      expect([statuses.first(5), statuses.drop(5).uniq]).to eq([[403, 401, 403, 401, 403], [429]])
      link = ask("POST", "/api/workspaces/here/people/#{id_of("bob@example.test")}/password-link", {}, browser: ann).last
      anew = Array.new(7) { ask("POST", link_of(link), {password: "a newer wall of rain", code: "000000"}).first }
      expect([anew.first(5), anew.drop(5).uniq]).to eq([[403] * 5, [429]])
      expect(ask("POST", link_of(link), {password: "short", code: "000000"}).first).to eq(422)
    end

    it "says in what was done who asks for it" do
      ann = found
      ask("PATCH", "/api/workspaces/here", {second_factor: true}, browser: ann)
      turn_on(ann)
      ask("PATCH", "/api/workspaces/here", {second_factor: false}, browser: ann)
      expect(Deed.pluck(:said).grep(/second factor/)).to eq(["Who needs a second factor changed: everybody", "Who needs a second factor changed: nobody"])
    end

    it "is reckoned as RFC 6238 shows (appendix B)" do
      totp = ROTP::TOTP.new(ROTP::Base32.encode("12345678901234567890"), digits: 8)
      expect([59, 1_111_111_109, 2_000_000_000].map { |at| totp.at(at) }).to eq(%w[94287082 07081804 69279037])
    end

    it "is demanded in a workspace of everybody in it, but of no key, and stays on then" do
      ann = found
      bob = join("bob@example.test", "editor", by: ann)
      key, = turn_on(ann)
      pipeline = ask("POST", "/api/workspaces/here/keys", {name: "nightly", role: "reader"}, browser: ann).last["key"]
      expect([bob, ann].map { |one| ask("PATCH", "/api/workspaces/here", {second_factor: true}, browser: one).first }).to eq([403, 200])
      links = ->(**who) { ask("GET", "/api/workspaces/here/links", **who).then { |status, answer| answer["kind"] || status } }
      expect([links.call(browser: ann), links.call(browser: bob), links.call(key: pipeline)]).to eq([200, "second_factor_missing", 200])
      expect(ask("POST", "/api/account/second-factor/turn-off", {current_password: secret, code: code(key)}, browser: ann).last["detail"]).to include("stays on")
      turn_on(bob)
      expect(links.call(browser: bob)).to eq(200)
    end

    it "is no way round: neither a link to a new password nor an invitation goes without it" do
      ann = found
      key, recovery = turn_on(join("bob@example.test", "reader", by: ann))
      _, link = ask("POST", "/api/workspaces/here/people/#{id_of("bob@example.test")}/password-link", {}, browser: ann)
      anew = ->(**more) { ask("POST", link_of(link), {password: "a newer wall of rain", **more}).then { |status, answer| answer["kind"] || status } }
      expect([anew.call, anew.call(code: "000000"), anew.call(code: recovery[0])]).to eq(["second_factor", "wrong_password", 200])
      elsewhere(Person.find_by!(mail: "ann@example.test"), "owner")
      link = ask("POST", "/api/workspaces/there/invitations", {mail: "bob@example.test", role: "reader"}, browser: ann).last
      expect([ask("POST", link_of(link), {password: "a newer wall of rain"}).last["kind"], ask("POST", link_of(link), {password: "a newer wall of rain", code: code(key)}).first]).to eq(["second_factor", 200])
    end
  end

  describe Invitation do
    it "of a new password is good for no more than its person reached when it was made" do
      ann = found
      join("bob@example.test", "owner", by: ann)
      bob = Person.find_by!(mail: "bob@example.test")
      made = -> { ask("POST", "/api/workspaces/here/people/#{bob.id}/password-link", {}, browser: ann) }
      {"they become a reader elsewhere" => -> { elsewhere(bob, "reader") }, "their role grows" => -> { elsewhere(bob, "owner") },
       "they leave" => -> { elsewhere(bob, "owner").destroy! }}.each do |what, change|
        elsewhere(Person.find_by!(mail: "ann@example.test"), "owner")
        status, link = made.call
        change.call
        expect([what, status, ask("POST", link_of(link), {password: "a newer wall of rain"}).first]).to eq([what, 201, 404])
      end
      elsewhere(bob, "reader")
      elsewhere(Person.find_by!(mail: "ann@example.test"), "editor")
      expect(made.call.last["detail"]).to include("reaches more than you own")
    end

    it "ends, as keys do, with whoever made it, or passes to another owner" do
      ann = found
      bob = join("bob@example.test", "owner", by: ann)
      make = lambda do |browser|
        invited = ask("POST", "/api/workspaces/here/invitations", {mail: "x#{SecureRandom.hex(2)}@example.test", role: "owner"}, browser: browser).last
        [ask("POST", "/api/workspaces/here/keys", {name: "nightly", role: "owner"}, browser: browser).last["key"], link_of(invited)]
      end
      good = ->((key, link)) { [ask("GET", "/api/workspaces/here", key: key).first, ask("GET", link).first] }
      made = -> { ask("GET", "/api/workspaces/here/people", browser: ann).last["people"].to_h { |one| [one["name"], one["made"]] } }
      ends, mine = make.call(bob), make.call(ann)
      expect(made.call).to eq("Ann" => 2, "Bob" => 2)
      bobs = "/api/workspaces/here/people/#{id_of("bob@example.test")}"
      expect(ask("PATCH", bobs, {role: "editor"}, browser: ann).first).to eq(200)
      expect([good.call(ends), good.call(mine)]).to eq([[401, 404], [200, 200]])
      ask("PATCH", bobs, {role: "owner"}, browser: ann)
      passes = make.call(bob)
      expect(ask("DELETE", "#{bobs}?heir=#{id_of("bob@example.test")}9", browser: ann).first).to eq(422)
      expect(ask("DELETE", "#{bobs}?heir=#{id_of("ann@example.test")}", browser: ann).first).to eq(204)
      expect([good.call(passes), good.call(mine), made.call]).to eq([[200, 200], [200, 200], {"Ann" => 4}])
    end

    it "does not tell whether an address has an account" do
      ann = found
      elsewhere(Person.first, "owner")
      join("rob@example.test", "reader", by: ann)
      shown = %w[rob@example.test sue@example.test].map do |mail|
        ask("GET", link_of(ask("POST", "/api/workspaces/there/invitations", {mail: mail, role: "reader"}, browser: ann).last)).last.except("mail")
      end
      expect(shown.first).to eq(shown.last)
    end
  end

  describe Forwarded do
    # told, comes from, says => whose request it is
    {["", "192.0.2.9", "1.2.3.4"] => "192.0.2.9", ["1", "127.0.0.1", "1.2.3.4"] => "1.2.3.4", ["1", "192.0.2.9", "1.2.3.4"] => "192.0.2.9",
     ["1", "127.0.0.1", "6.6.6.6, 10.0.0.8"] => "10.0.0.8", ["10.0.0.1,10.0.0.2", "10.0.0.1", "6.6.6.6, 10.0.0.8, 10.0.0.2"] => "10.0.0.8",
     ["1", "127.0.0.1", "nonsense"] => "127.0.0.1", ["1", "::1", "2001:db8::7"] => "2001:db8::7", ["10.0.0.0/24", "::ffff:10.0.0.9", "192.0.2.1"] => "192.0.2.1"}.each do |given, expected|
      it "hears whose request it is: #{expected} of #{given.inspect}" do
        stub_const("ENV", ENV.to_h.merge("ORVANT_PROXY" => given[0]))
        env = {"REMOTE_ADDR" => given[1], "HTTP_X_FORWARDED_FOR" => given[2], "HTTP_X_FORWARDED_HOST" => "evil.test", "HTTP_CLIENT_IP" => "6.6.6.6", "HTTP_X_REAL_IP" => "7.7.7.7"}
        expect(described_class.new(->(one) { [one["REMOTE_ADDR"], one.keys & Forwarded::HEADERS, Rack::Request.new(one).ip] }).call(env)).to eq([expected, [], expected])
      end
    end
  end

  describe NetworkKey do
    it "goes to the server that it was given for, and to no other" do
      ann = found
      network = {network: "Tidepost", address: "https://ads.tidepost.example/ads", owner: ""}
      expect(ask("PATCH", "/api/workspaces/here", {networks: [network.merge(key: "geheim")]}, browser: ann).first).to eq(200)
      editor = join("ed@example.test", "editor", by: ann)
      sent = []
      allow_any_instance_of(Orvant::Inventory::NetworkAds).to receive(:fetch) { |_, address, key| sent << [address.raw, key] && raise(Orvant::Error, "no") }
      tried = {{} => 201, {address: "https://ads.tidepost.example/other"} => 201, {address: "https://evil.test/"} => 422, {address: "http://ads.tidepost.example/"} => 422, {address: "https://ads.tidepost.example:8443/"} => 422,
               {address: "https://evil.test/", key: "own"} => 201, {key: "sealed:abc"} => 422}
      expect(tried.keys.to_h { |more| [more, ask("POST", "/api/workspaces/here/imports/fetch", {kind: "network", network: "Tidepost", **more}, browser: editor).first] }).to eq(tried)
      Delayed::Worker.new(quiet: true).work_off(20)
      expect(sent).to contain_exactly(["https://ads.tidepost.example/ads", "geheim"], ["https://ads.tidepost.example/other", "geheim"], ["https://evil.test/", "own"])
      moved = network.merge(address: "https://evil.test/")
      expect(ask("PATCH", "/api/workspaces/here", {networks: [moved]}, browser: ann).last["detail"]).to include("goes nowhere else")
      expect(ask("PATCH", "/api/workspaces/here", {networks: [moved.merge(key: "anew")]}, browser: ann).first).to eq(200)
    end
  end
end
