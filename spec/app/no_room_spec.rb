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
    rows = ->(many) { "date,source,campaign,sessions\n#{Array.new(many) { |number| "2026-11-02,source #{number},campaign #{number},1" }.join("\n")}" }
    import = ->(many, status) { call(:post, "/imports?kind=traffic&filename=t.csv", body: rows[many], expect_status: status) }
    filled { expect(import.call(2_500, 507)).to include("kind" => "no_room", "detail" => described_class::SENTENCE) }
    expect([import.call(2_500, 201)["state"], @workspace.traffic_rows.sum(:sessions)]).to eq(["done", 2_500])
  end

  # Where not even that can be written down, the process ends, is begun again, and takes up what it had.
  it "is said of a file that the worker reads, or the file is read once there is room" do
    later = call(:post, "/imports?kind=traffic&filename=t.csv", body: "date,source,campaign,sessions\n#{Array.new(9_000) { |number| "2026-11-02,source #{number},campaign #{number},1" }.join("\n")}")
    work = -> { Delayed::Worker.new(quiet: true).work_off }
    begin
      filled(&work)
    rescue ActiveRecord::StatementInvalid
      work.call
    end
    expect(call(:get, "/imports/#{later["id"]}").slice("state", "problem")).to eq("state" => "failed", "problem" => described_class::SENTENCE).or eq("state" => "done", "problem" => nil)
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
    expect([described_class.sentence(full, "The sweep"), described_class.sentence(ArgumentError.new("x"), "The sweep")]).to match([described_class::SENTENCE, /\AThe sweep was broken off by a fault inside Orvant; [^:]*\z/])
  end
end
