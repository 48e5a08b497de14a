# frozen_string_literal: true

# How Ruby runs these programs, which can only be said before it starts: with its own just-in-time compiler,
# where this Ruby has it, without which rules and trails take a quarter more; and with room for what a batch
# of links throws away, so that what stays is not looked through again and again.
module Runtime
  # The compiler's machine code is kept within so many MB; what does not fit is run as without it.
  MOST_CODE = 32
  # So many objects' room is free after each collection, of 40 bytes each.
  ROOM = 200_000
  ROOMY = "RUBY_GC_HEAP_INIT_SLOTS"
  COMPILER = defined?(RubyVM::YJIT)

  module_function

  # @return [Hash{String => String}] the environment of a Ruby that runs so; what a person has said of it
  #   stands
  def environment = compiled.merge(ENV.key?(ROOMY) ? {} : {ROOMY => ROOM.to_s})

  # Begins this program again in a Ruby that runs so, where this one does not.
  def begin_again
    exec(environment, RbConfig.ruby, $PROGRAM_NAME, *ARGV) if environment.any?
  end

  def compiled
    said = ENV["RUBYOPT"].to_s
    return {} if !COMPILER || said.include?("jit")

    {"RUBYOPT" => "#{said} --yjit --yjit-exec-mem-size=#{MOST_CODE}".strip}
  end
  private_class_method :compiled
end
