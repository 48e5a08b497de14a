# frozen_string_literal: true

require "ferrum"
require "json"

# Chromium's own decoder is the judge of every label, and of every byte of the encodings that have one for a
# sign.
RSpec.describe Orvant::Page::Charset do
  before(:all) do
    @browser = Ferrum::Browser.new(browser_path: Orvant::Browser::Sealed.program, browser_options: Process.uid.zero? ? {"no-sandbox" => nil} : {})
  end

  after(:all) { @browser.quit }

  def judged(expression) = JSON.parse(@browser.evaluate("JSON.stringify(#{expression})"))

  # Ruby's own names are among them, which pages may say and browsers do not know.
  labels = described_class::LABELS.keys + Encoding.name_list.map(&:downcase) +
    ["UTF-8", " Latin1\n", "\u00a0utf-8", "utf-8;", "'utf-8'", "win-1251", "utf-32", "utf-7", "unicode", "locale", "internal", ""]
  # What TextDecoder does not offer, and pages may be written in: unread, and as a meta means it.
  apart = %w[csiso2022kr hz-gb-2312 iso-2022-cn iso-2022-cn-ext iso-2022-kr replacement]

  it "knows the labels that Chromium knows, and tells the same encodings apart" do
    names = judged("#{labels.uniq.to_json}.map(l => { try { return new TextDecoder(l).encoding } catch { return null } })")
    pairs = labels.uniq.zip(names).to_h.except(*apart).map { |label, name| [described_class.named(label), name] }
    expect(pairs.select { |ours, theirs| ours.nil? != theirs.nil? }).to eq([])
    # Of these pairs browsers read both alike, but for the direction of the line and bytes that are in no page.
    alike = {"iso-8859-8-i" => "iso-8859-8", "gbk" => "gb18030", "x-user-defined" => "windows-1252"}
    told = pairs.select(&:first).map { |ours, theirs| [ours, alike.fetch(theirs, theirs)] }.uniq
    expect([told.map(&:first).tally.values.max, told.map(&:last).tally.values.max]).to eq([1, 1])
    expect(apart.map { |label| described_class.named(label) }.uniq).to eq([described_class::UNREAD])
  end

  single = described_class::LABELS.values.uniq.reject { |encoding| encoding == described_class::UNREAD || encoding.name.match?(/UTF|GB|Big5|CP5|31J|CP949/) }
  single.each do |encoding|
    it "reads every byte of #{encoding.name} as Chromium does" do
      theirs = judged("Array.from({length: 256}, (_, byte) => new TextDecoder(#{described_class::LABELS.key(encoding).to_json}).decode(new Uint8Array([65, byte, 66])))")
      ours = (0..255).map { |byte| described_class.decode([65, byte, 66].pack("C*"), encoding) }
      # Ruby has no sign of a private kind, as macRoman has one for a firm's mark.
      expect(ours.zip(theirs).reject { |mine, other| mine == other || other.match?(/[\uE000-\uF8FF]/) }).to eq([])
    end
  end

  {
    Encoding::UTF_8 => "Tag · día · 日", Encoding::Windows_31J => "日帰り券ｱｲﾗﾝﾄﾞ", Encoding::CP51932 => "日帰り券", Encoding::CP50221 => "日帰り券", Encoding::GB18030 => "一日券 € 𠀀",
    Encoding::Big5_UAO => "一日券", Encoding::CP949 => "하루 이용권", Encoding::UTF_16BE => "Tag 日", Encoding::UTF_16LE => "Tag 日"
  }.each do |encoding, text|
    it "reads words in #{encoding.name} as Chromium does" do
      bytes = text.encode(encoding).bytes
      expect([described_class.decode(bytes.pack("C*"), encoding), judged("new TextDecoder(#{described_class::LABELS.key(encoding).to_json}).decode(new Uint8Array(#{bytes}))")]).to eq([text, text])
    end
  end

  it "reads nothing of what could be made to mean anything" do
    expect(Orvant::Page::Markup.of("<meta http-equiv=refresh content='0;url=/x'>".b, "text/html;charset=iso-2022-kr").refreshes).to eq([])
  end
end
