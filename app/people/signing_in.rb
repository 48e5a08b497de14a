# frozen_string_literal: true

# Somebody shows who they are: by a mail address, a password, and a code where they have a second factor.
class SigningIn
  # @param mail [String] as typed
  # @param password [String]
  # @param code [String, nil]
  # @param machine [String] its address
  # @param known [Boolean] whether this person has signed in at it before
  def initialize(mail, password, code: nil, machine: "", known: false)
    @mail = mail.to_s.strip.downcase
    @password = password
    @code = code
    @machine = machine
    @known = known
  end

  # @return [Person, nil] nil where something is wrong; what is not told
  # @raise [Problem] where they have to wait, or where only the code is missing
  def call
    Tries.count("mail:#{@mail}", machine: @machine, known: @known) do
      found = Person.with(@mail, @password)
      found if found && right_code?(found.second_factor)
    end
  end

  private

  # A right password without a code forgives no wrong codes before it.
  def right_code?(factor)
    return true unless factor.on?
    raise Problem.new(:second_factor) if @code.to_s.empty?

    factor.accepts?(@code)
  end
end
