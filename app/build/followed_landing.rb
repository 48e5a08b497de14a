# frozen_string_literal: true

# A landing address that was followed with parameters on it, and those that it lost.
class FollowedLanding < ActiveRecord::Base
  # Addresses that are looked for in one statement.
  BATCH = 500

  belongs_to :workspace

  # @param workspace [Workspace]
  # @param landing [Orvant::Address]
  # @param found [Hash] what LandingCheck answers
  def self.keep(workspace, landing, found)
    now = Time.now.utc
    upsert({
      workspace_id: workspace.id,
      normal_form: landing.normal_form,
      outcome: found["outcome"],
      lost: found["lost"],
      offer: found["offer"],
      created_at: now,
      updated_at: now
    },
      unique_by: %i[workspace_id normal_form],
      update_only: %i[outcome lost offer updated_at],
      record_timestamps: false)
  end

  # @param workspace [Workspace]
  # @param rows [Array<Orvant::Build::Row>]
  # @return [Hash{String => Orvant::Build::Landing}] by normal form: what is known of their landing addresses
  def self.of(workspace, rows)
    forms = rows.filter_map { |row| form(row.landing) }.uniq
    forms.each_slice(BATCH).flat_map { |some| workspace.followed_landings.where(normal_form: some).to_a }
      .to_h { |one| [one.normal_form, Orvant::Build::Landing.new(lost: one.lost, offer: one.offer)] }
  end

  def self.form(text)
    Orvant::Address.parse(text).normal_form
  rescue Orvant::Error::UnusableAddress
    nil
  end
  private_class_method :form
end
