# frozen_string_literal: true

# Visits that are begun while another one is under way.
RSpec.describe Orvant::Browser::Spares do
  closed = []
  before { closed.clear }
  subject(:spares) { described_class.new { |session| closed << session } }

  it "gives each visitor their own, once, and closes what nobody has used" do
    spares.begin("desktop") { :first }
    spares.begin("phone") { :second }
    spares.begin("desktop") { :third }
    expect([spares.take("desktop"), spares.take("tablet")]).to eq([:first, nil])
    spares.clear
    expect(closed).to contain_exactly(:second, :third)
    expect([spares.take("desktop"), spares.take("phone")]).to eq([nil, nil])
  end

  it "says nothing of one that could not be begun: whoever needs it begins another" do
    2.times { spares.begin("desktop") { raise Orvant::Error::Unreachable, "The browser does not start." } }
    expect(spares.take("desktop")).to be_nil
    expect { spares.clear }.not_to raise_error
    expect(closed).to be_empty
  end
end
