# frozen_string_literal: true

# What was found in a recording (HAR) that a person brought. Of the file itself nothing is kept.
class KeptRecording < ActiveRecord::Base
  # So many stay for a workspace; older ones go.
  MOST = 50

  belongs_to :workspace

  # @param workspace [Workspace]
  # @param bytes [String] the file
  # @return [KeptRecording]
  # @raise [Orvant::Error::UnusableTable] where it is no HAR
  def self.judge(workspace, bytes, filename:, author: "")
    convention = workspace.convention
    recording = Orvant::Recording.read(bytes)
    look = Orvant::Looking.new(
      nil,
      convention,
      workspace.tag_signatures,
      workspace.watched,
      fields: workspace.expected_fields
    )
    visits = recording.visits(workspace.tag_signatures, page_of: ->(address) { convention.page_of(address) })
      .select { |visit| convention.own_hosts.cover?(Orvant::Address.new(visit.final_address).host) }
    document = {
      "notes" => recording.notes,
      "pages" => visits.map { |visit| recorded(visit, look.judged(visit)) }
    }
    create!(workspace: workspace, filename: filename, author: author, document: document).tap do
      where(workspace: workspace).order(id: :desc).offset(MOST).destroy_all
    end
  end

  def self.recorded(visit, found)
    {"page" => visit.page,
     "address" => visit.final_address,
     "reason" => visit.reason,
     "signals" => visit.signals.map(&:to_h),
     "tags" => visit.tags,
     "findings" => found.map { |one|
       {
         "code" => one.code,
         "weight" => one.weight,
         "message" => one.message,
         "evidence" => one.evidence,
         "action" => one.remedy&.action
       }
     }}
  end
  private_class_method :recorded

  # @return [Hash{String => Object}] without what was found
  def as_document
    {
      "id" => id,
      "filename" => filename,
      "author" => author,
      "created_at" => created_at.iso8601,
      "pages" => document["pages"].size,
      "findings" => document["pages"].sum { |page| page["findings"].size }
    }
  end
end
