# frozen_string_literal: true

# Accounts whose passwords cost little to check, and no tries that other examples have left.
RSpec.shared_context "cheap passwords" do
  around do |example|
    Password.cost = BCrypt::Engine::MIN_COST
    FileUtils.rm_rf(Settings.var("tries"))
    Tries::Row.delete_all
    example.run
  ensure
    Password.cost = nil
  end
end
