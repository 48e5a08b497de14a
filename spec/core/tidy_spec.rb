# frozen_string_literal: true

RSpec.describe Orvant::Checks::Param::Tidy do
  plain = {"role" => "campaign", "carriers" => ["utm_campaign"], "case" => "lower"}
  known = plain.merge("vocabulary" => {"values" => [{"value" => "walks-2026"}, {"value" => "SKL-Gift", "aliases" => ["gift pass", "gift_pass"]}]})
  [
    [plain, "Autumn-Day-Pass", "autumn-day-pass"],
    [plain, " winter  walks ", "winter-walks"],
    [plain, "", ""],
    [plain, "gift\u200B-pass\u00A0", "gift-pass"],
    [plain, "(Gift-Pass).", "(gift-pass)"],
    [plain.merge("case" => "any"), "Winter Walks", "Winter-Walks"],
    [plain.merge("case" => "upper", "separator" => "_"), "winter walks", "WINTER_WALKS"],
    [plain.merge("free_text" => true), "Read  On", "read  on"],
    [known, "WALKS 2026", "walks-2026"],
    [known, "Gift pass", "SKL-Gift"],
    [known, "skl-gift", "SKL-Gift"],
    [known, "Other", "other"]
  ].each do |rules, written, meant|
    it "takes #{written.inspect} for #{meant.inspect} where it is #{rules.except("role", "carriers").to_json}" do
      expect(described_class.meant(written, Orvant::Convention::Role.new(rules))).to eq(meant)
    end
  end
end
