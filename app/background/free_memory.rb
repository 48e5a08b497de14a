# frozen_string_literal: true

require "fiddle"

# Gives memory that is free again back to the system. What a sweep reads and throws away by the link leaves
# gaps between what stays, and the C library keeps them for itself unless it is asked.
module FreeMemory
  TRIM = begin
    Fiddle::Function.new(Fiddle::Handle::DEFAULT["malloc_trim"], [Fiddle::TYPE_SIZE_T], Fiddle::TYPE_INT)
  rescue Fiddle::DLError
    # Other C libraries have no such call.
    ->(_) { 0 }
  end

  module_function

  # Takes some 0.1 s: for between batches, not for each link.
  def give_back
    GC.start
    TRIM.call(0)
  end
end
