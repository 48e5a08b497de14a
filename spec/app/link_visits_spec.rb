# frozen_string_literal: true

require_relative "../app_helper"

# From a link to its visits: those that carry its values, right or wrong, or the plain word that there are
# none.
RSpec.describe LinkVisits, :empty do
  before do
    DemoFixture.clear
    @workspace = Founding.call(title: "Here", own_hosts: ["a.test"])
    csv = "address,found,since\nhttp://a.test/?utm_source=isle&utm_medium=email&utm_campaign=june,Letter,2026-06-01\nhttp://a.test/?utm_source=isle&utm_medium=email&utm_campaign=july,Letter,2026-07-01\nhttp://a.test/plain,x,\n"
    LinkImporting.new(@workspace, csv, filename: "a.csv").call
  end

  def visits(part)
    @workspace.links.find_by!("address LIKE ?", "%#{part}%")
      .then { |link| described_class.new(link, link.address).document }
  end

  it "adds up what carries its values, whatever else it says, from the first day to the last" do
    expect(visits("june")).to be_nil
    rows = "date,source,medium,campaign,content,landing page,referrer,sessions,conversions\n2026-06-03,isle,email,june,top,/,,5,1\n2026-06-09,isle,email,june,foot,/,,7,0\n2026-07-09,Isle,email,july,,/,,9,0\n"
    TrafficImporting.new(@workspace, rows, filename: "rows.csv").call
    Explaining.new(@workspace).call
    expect(visits("june")).to include("sessions" => 12, "conversions" => 1, "first" => "2026-06-03", "last" => "2026-06-09", "since" => "2026-06-01")
    expect(visits("july")).to include("sessions" => 0, "first" => nil, "since" => "2026-07-01", "until" => "2026-07-09")
    expect(visits("plain")).to be_nil
  end
end
