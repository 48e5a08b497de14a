# frozen_string_literal: true

# The rooms of the application, in the order of the job: a room uses those before it, never one behind it.
# Where an earlier one must tell later ones, they subscribe (subscriptions.rb).
ROOMS = %w[
  background
  workspaces
  api
  people
  convention
  collect
  build
  sweeps
  tags
  rehearsals
  traffic
  fixes
  overview
  serving
].freeze
