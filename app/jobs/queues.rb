# frozen_string_literal: true

# What waits for others' servers and what does not stand in queues of their own, so that nobody's file waits
# until a sweep is done.
module Queues
  # Follows links, opens pages, fetches.
  OUTSIDE = "outside"
  # Reads files, explains.
  INSIDE = "inside"
end
