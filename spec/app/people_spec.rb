# frozen_string_literal: true

require_relative "../app_helper"
require "rack/test"

# Accounts, sign-in, invitations and keys, through the API alone.
RSpec.describe SessionResource, :api do
  include_context "people"

  it "asks nothing of one person alone, and everybody from the first account on" do
    expect(ask("GET", "/api/session").last).to include("alone" => true, "makes_workspaces" => true)
    expect(ask("GET", "/api/workspaces/here").first).to eq(200)
    browser = found
    expect(ask("GET", "/api/workspaces/here").last).to include("status" => 401, "kind" => "not_signed_in")
    expect(ask("GET", "/api/workspaces/here", browser: browser).first).to eq(200)
    expect(ask("POST", "/api/owner", {name: "Eve", mail: "eve@example.test", password: secret}).first).to eq(401)
  end

  it "lets nobody in who was not, where Orvant is reached from elsewhere, until the first link is used once" do
    stub_const("ENV", ENV.to_h.merge("ORVANT_SIGN_IN" => "1"))
    expect(ask("GET", "/api/workspaces").first).to eq(401)
    expect(ask("POST", "/api/owner", {name: "Eve", mail: "eve@example.test", password: secret}).first).to eq(401)
    _, link = Invitation.founder
    answers = Array.new(2) do
      ask("POST", "/api/invitations/#{link}", {name: "Ann", mail: "ann@example.test", password: secret}).first
    end
    expect(answers).to eq([200, 404])
    expect(Person.pluck(:mail, :founder)).to eq([["ann@example.test", true]])
  end

  it "sets a cookie that scripts cannot read, new with every sign-in, whatever the browser sent" do
    found
    expect(ask("POST", "/api/session", {mail: " ANN@example.test ", password: secret}, browser: "chosen-by-somebody").first).to eq(200)
    first = token
    expect(@cookie).to match(/httponly/i).and match(/samesite=lax/i)
    expect(first).not_to eq("chosen-by-somebody")
    ask("POST", "/api/session", {mail: "ann@example.test", password: secret}, browser: first)
    second = token
    expect([first, second.succ, second].map { |one| ask("GET", "/api/workspaces", browser: one).first }).to eq([401, 401, 200])
    expect(SignIn.pluck(:digest)).not_to include(second)
  end

  it "ends a visit by signing out, by thirty days, and by a new password" do
    browser = found
    others = Array.new(2) do
      ask("POST", "/api/session", {mail: "ann@example.test", password: secret}).then { token }
    end
    ask("DELETE", "/api/session", browser: browser)
    SignIn.find_by!(digest: Token.digest(others.first)).update!(created_at: 31.days.ago)
    expect([browser, others.first].map { |one| ask("GET", "/api/workspaces", browser: one).first }).to eq([401, 401])
    status, = ask("PATCH", "/api/account", {password: "another wall of rain", current_password: secret}, browser: others.last)
    fresh = token
    expect([status, ask("GET", "/api/workspaces", browser: others.last).first, ask("GET", "/api/workspaces", browser: fresh).first]).to eq([200, 401, 200])
    expect(ask("PATCH", "/api/account", {password: "yet another wall", current_password: "wrong"}, browser: fresh).first).to eq(403)
  end

  it "answers a password with a zero byte as a wrong one, and counts wrong ones at an invitation, too", :still do
    ann = found
    expect(ask("POST", "/api/session", {mail: "ann@example.test", password: "#{secret}\0"}).last).to include("status" => 403, "kind" => "wrong_password")
    Founding.call(title: "There", own_hosts: ["b.test"])
      .then { |there|
        Membership.create!(person: Person.find_by!(mail: "ann@example.test"), workspace: there, role: "owner")
      }
    join("rob@example.test", "reader", by: ann)
    _, again = ask("POST", "/api/workspaces/there/invitations", {mail: "rob@example.test", role: "reader"}, browser: ann)
    statuses = Array.new(11) do
      ask("POST", "/api/invitations/#{again["link"][%r{[^/]+\z}]}", {password: "not the right one"}).first
    end
    expect([statuses.first, statuses.last]).to eq([403, 429])
  end

  it "checks a password of nobody as dearly as any" do
    found
    counted = 0
    allow_any_instance_of(BCrypt::Password).to receive(:is_password?) { (counted += 1).zero? }
    %w[ann@example.test nobody@example.test].each do |mail|
      ask("POST", "/api/session", {mail: mail, password: "x"})
    end
    expect(counted).to eq(2)
  end

  # what is given => what is said
  {{password: "short"} => "twelve characters", {password: "eleven char"} => "twelve characters", {password: "123456789012"} => "tried first", {password: "Qwertyuiop12"} => "tried first", {password: "aaaaaaaaaaaa"} => "tried first", {password: "P@ssw0rd1234"} => "tried first",
   {password: "Welcome12345!"} => "tried first", {password: "Orvant-2026!"} => "tried first", {password: "annika-annika"} => "own name", {password: "lighthouse2026"} => "tried first", {password: "Northern-Lighthouse!"} => "tried first",
   {password: "four walls\0 of rain"} => "zero bytes", {mail: "nobody"} => "no mail address", {mail: "ann@example.test\r\nBcc: all@example.test"} => "no mail address", {mail: "a b@example.test"} => "no mail address",
   {name: " "} => "Say your name", {name: "n" * 101} => "at most 100"}.each do |facts, said|
    it "refuses a first owner with #{facts.inspect[0, 50]} in words" do
      Workspace.update_all(title: "Northern Lighthouse")
      status, answer = ask("POST", "/api/owner", {name: "Annika", mail: "ann@example.test", password: secret, **facts})
      expect([status, answer["detail"]]).to match([422, a_string_including(said)])
      expect(Person.count).to eq(0)
    end
  end

  it "invites by a link that is good once and for a day, into a role that holds at once when it changes" do
    owner = found
    reader = join("rob@example.test", "reader", by: owner)
    expect(ask("GET", "/api/workspaces/here/people", browser: reader).last["invitations"]).to eq([])
    expect(ask("PATCH", "/api/workspaces/here", {title: "Mine"}, browser: reader).last).to include("status" => 403, "detail" => "You are reader here; that is for owners.")
    expect(ask("PATCH", "/api/workspaces/here/people/#{id_of("rob@example.test")}", {role: "owner"}, browser: owner).first).to eq(200)
    expect(ask("PATCH", "/api/workspaces/here", {title: "Mine"}, browser: reader).first).to eq(200)
    _, late = ask("POST", "/api/workspaces/here/invitations", {mail: "sue@example.test", role: "editor"}, browser: owner)
    Invitation.where(used_at: nil).update_all(ends_at: 1.minute.ago)
    expect(ask("POST", "/api/invitations/#{late["link"][%r{[^/]+\z}]}", {name: "Sue", password: secret}).first).to eq(404)
    expect(ask("POST", "/api/workspaces/here/invitations", {mail: "rob@example.test", role: "king"}, browser: owner).last["detail"]).to include("already")
  end

  it "keeps an owner whoever leaves, and shows another's workspace to nobody" do
    ann = found
    bob = join("bob@example.test", "owner", by: ann)
    Founding.call(title: "There", own_hosts: ["b.test"])
    expect(ask("GET", "/api/workspaces", browser: bob).last["workspaces"].map { |one| one["name"] }).to eq(["here"])
    expect(ask("GET", "/api/workspaces/there/links", browser: bob).first).to eq(404)
    answers = [[ann, "bob@example.test"], [bob, "ann@example.test"]].map do |browser, mail|
      ask("DELETE", "/api/workspaces/here/people/#{id_of(mail)}", browser: browser).first
    end
    expect(answers).to eq([204, 404])
    expect(ask("DELETE", "/api/workspaces/here/people/#{id_of("ann@example.test")}", browser: ann).last["detail"]).to include("keeps an owner")
  end

  it "gives a link to a new password to whom it may, and asks the address alone nothing" do
    ann = found
    bob = join("bob@example.test", "owner", by: ann)
    expect(ask("POST", "/api/workspaces/here/people/#{id_of("ann@example.test")}/password-link", {}, browser: bob).first).to eq(403)
    _, link = ask("POST", "/api/workspaces/here/people/#{id_of("bob@example.test")}/password-link", {}, browser: ann)
    expect(ask("POST", "/api/invitations/#{link["link"][%r{[^/]+\z}]}", {password: "a newer wall of rain"}).first).to eq(200)
    expect(ask("GET", "/api/workspaces", browser: bob).first).to eq(401)
    expect(ask("POST", "/api/password-links", {mail: "bob@example.test"}).first).to eq(422)
  end

  it "lets a pipeline in by a key for one workspace and role, until it is taken back" do
    ann = found
    Founding.call(title: "There", own_hosts: ["b.test"])
    _, made = ask("POST", "/api/workspaces/here/keys", {name: "nightly", role: "editor"}, browser: ann)
    key = made["key"]
    LinkImporting.new(@here, "address\nhttp://a.test/\n", filename: "a.csv").call
    expect(ApiKey.pluck(:digest)).not_to include(key)
    expect(%w[here there].map { |name| ask("GET", "/api/workspaces/#{name}", key: key).first }).to eq([200, 404])
    expect(ask("PATCH", "/api/workspaces/here", {title: "X"}, key: key).first).to eq(403)
    expect(ask("POST", "/api/workspaces/here/invitations", {mail: "x@example.test", role: "owner"}, key: key).first).to eq(403)
    expect(ask("POST", "/api/workspaces/here/sweeps", {}, key: key).first).to eq(201)
    expect(Sweep.last.author).to eq("nightly (key)")
    ask("DELETE", "/api/workspaces/here/keys/#{made["id"]}", browser: ann)
    expect([key, "#{key}x", "", "orvant_"].map { |text| ask("GET", "/api/workspaces/here", key: text).first }).to all(eq(401))
  end

  it "writes who did what under their name, whatever they typed, and takes a setting back" do
    ann = found
    ask("PATCH", "/api/workspaces/here", {currency: "NOK"}, browser: ann)
    _, convention = ask("GET", "/api/workspaces/here/convention", browser: ann)
    ask("POST", "/api/workspaces/here/convention", {document: convention["document"], base: 1, author: "Somebody else"}, browser: ann)
    _, history = ask("GET", "/api/workspaces/here/history", browser: ann)
    expect(history["deeds"].map { |one| [one["what"][0, 40], one["by"]] }).to include(["The currency changed from “EUR” to “NOK”", "Ann"], ["Version 2 of the convention saved", "Ann"])
    deed = history["deeds"].find { |one| one["undo"] == "setting" }
    expect(ask("POST", "/api/workspaces/here/settings/take-back/#{deed["id"]}", {}, browser: ann).last["currency"]).to eq("EUR")
    expect(ask("POST", "/api/workspaces/here/settings/take-back/#{deed["id"]}", {}, browser: ann).first).to eq(422)
  end

  it "believes a proxy only where it was told that there is one" do
    found
    forwarded = {"HTTP_HOST" => "127.0.0.1", "REMOTE_ADDR" => "127.0.0.1", "HTTP_X_FORWARDED_PROTO" => "https", "HTTP_X_FORWARDED_HOST" => "127.0.0.1"}
    secure = ["", "1"].map do |told|
      stub_const("ENV", ENV.to_h.merge("ORVANT_PROXY" => told))
      env = Rack::MockRequest.env_for("http://127.0.0.1/api/session", :method => "POST", :input => JSON.generate(mail: "ann@example.test", password: secret), "CONTENT_TYPE" => "application/json", **forwarded)
      Array(Api.call(env)[1]["set-cookie"]).all? { |cookie| cookie.match?(/secure/i) }
    end
    expect(secure).to eq([false, true])
  end

  it "sends invitations and new passwords through the mail server that is set" do
    MailStand.open do |server|
      stub_const("ENV", ENV.to_h.merge("ORVANT_SMTP" => "smtp://127.0.0.1:#{server.port}", "ORVANT_MAIL_FROM" => "orvant@example.test"))
      ann = found
      _, invited = ask("POST", "/api/workspaces/here/invitations", {mail: "rob@example.test", role: "reader"}, browser: ann)
      expect(invited["sent"]).to be(true)
      expect(server.received.pop).to include("To: rob@example.test", invited["link"])
      answers = %w[ann@example.test nobody@example.test].map do |mail|
        ask("POST", "/api/password-links", {mail: mail})
      end
      expect(answers.uniq.size).to eq(1)
      expect(server.received.pop).to include("To: ann@example.test")
    end
    stub_const("ENV", ENV.to_h.merge("ORVANT_SMTP" => "smtp://127.0.0.1:9"))
    expect(ask("POST", "/api/workspaces/here/invitations", {mail: "sue@example.test", role: "reader"}, browser: token || ask("POST", "/api/session", {mail: "ann@example.test", password: secret}).then { token }).last["sent"]).to be(false)
  end
end
