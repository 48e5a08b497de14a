# frozen_string_literal: true

require_relative "../app_helper"

RSpec.describe NoRoom, :empty do
  include ApiCalls

  # What a database says when it grows no further; SQLite can be told to be full.
  def filled
    connection = ActiveRecord::Base.connection
    skip "only SQLite can be told to be full" unless connection.adapter_name == "SQLite"

    connection.execute("VACUUM")
    connection.execute("PRAGMA max_page_count = #{connection.select_value("PRAGMA page_count").to_i + 4}")
    yield
  ensure
    connection.execute("PRAGMA max_page_count = 4294967294") if connection.adapter_name == "SQLite"
  end

  before do
    DemoFixture.clear
    @workspace = Founding.call(title: "Skerry Line", own_hosts: ["www.skerryline.example"])
  end

  it "is said in one sentence, whatever the database says; the same goes in once there is room" do
    rows = "date,source,campaign,sessions\n#{Array.new(4_000) { |number| "2026-11-02,source #{number},campaign #{number},1" }.join("\n")}"
    import = ->(status) { call(:post, "/imports?kind=traffic&filename=t.csv", body: rows, expect_status: status) }
    filled { expect(import.call(507)).to include("kind" => "no_room", "detail" => described_class::SENTENCE) }
    expect([import.call(201)["state"], @workspace.traffic_rows.sum(:sessions)]).to eq(["done", 4_000])
  end

  it "is told from other faults by their causes" do
    full = begin
      begin
        raise Errno::ENOSPC
      rescue SystemCallError
        raise "cannot rollback"
      end
    rescue => error
      error
    end
    expect([described_class.sentence(full, "The sweep"), described_class.sentence(ArgumentError.new("x"), "The sweep")]).to eq([described_class::SENTENCE, "The sweep was broken off: x"])
  end
end
