# frozen_string_literal: true

module Orvant
  # Remembers what was worked out for equal things, up to so many. When it is full it begins anew: that costs
  # less than to know which is oldest.
  class Memory
    # @param most [Integer] how many answers it holds
    # @return [Memory] in which only the very same object is the same thing
    def self.of_objects(most) = new(most, {}.compare_by_identity)

    # @param most [Integer] how many answers it holds
    def initialize(most, answers = {})
      @most = most
      @answers = answers
    end

    # @param thing [Object] a key, by equality
    # @return [Object] what the block gave for it the first time
    def fetch(thing)
      @answers.fetch(thing) { keep(thing, yield) }
    end

    # What is not known of many things is worked out for all of them together.
    #
    # @param things [Array<Object>] each once, fewer than it holds
    # @yieldparam missing [Array<Object>] those of which nothing is known
    # @yieldreturn [Array<Object>] an answer for each
    # @return [Array<Object>] the answers of all
    def fetch_all(things)
      missing = things.reject { |thing| @answers.key?(thing) }
      if missing.any? && @answers.size + missing.size > @most
        @answers.clear
        missing = things
      end
      missing.zip(yield(missing)) { |thing, answer| @answers[thing] = answer } if missing.any?
      @answers.values_at(*things)
    end

    # @param answer [Object] what is known of it already
    # @return [Object] the answer
    def keep(thing, answer)
      @answers.clear if @answers.size >= @most
      @answers[thing] = answer
    end
  end
end
