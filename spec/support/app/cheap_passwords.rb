# frozen_string_literal: true

# Accounts whose passwords cost little to check, and no tries that other examples have left.
RSpec.shared_context "cheap passwords" do
  around do |example|
    ActiveModel::SecurePassword.min_cost = true
    FileUtils.rm_rf(Settings.var("tries"))
    example.run
  ensure
    ActiveModel::SecurePassword.min_cost = false
  end
end
