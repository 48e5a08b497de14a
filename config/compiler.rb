# frozen_string_literal: true

# Ruby's own just-in-time compiler: rules and trails take a quarter less with it. It can only be asked for
# before Ruby starts, and not every Ruby has it.
module Compiler
  # Its machine code is kept within so many MB; what does not fit is run as without it.
  MOST = 32
  THERE = defined?(RubyVM::YJIT)

  module_function

  # @return [Hash{String => String}] the environment of a Ruby that uses it; what a person has said of it
  #   stands
  def environment
    said = ENV["RUBYOPT"].to_s
    return {} if !THERE || said.include?("jit")

    {"RUBYOPT" => "#{said} --yjit --yjit-exec-mem-size=#{MOST}".strip}
  end

  # Begins this program again in a Ruby that uses it, where this one does not.
  def begin_again
    exec(environment, RbConfig.ruby, $PROGRAM_NAME, *ARGV) if environment.any?
  end
end
