# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # A link as one check may look at it: what the check has not declared by `reads` is refused.
      class View
        class << self
          # @param aspects [Array<Symbol>]
          # @return [Class] of views that show these sides
          def showing(aspects)
            @classes ||= {}
            @classes[aspects] ||= Class.new(self) do
              names = Aspect::ALWAYS + aspects.flat_map { |name| Aspect.of(name).names }
              names.uniq.each { |name| show(name, LinkSubject.part_with(name)) }
            end
          end

          private

          # Written out, since checks ask millions of times.
          def show(name, part)
            owner = part ? LinkSubject::PARTS.fetch(part) : LinkSubject
            given = owner.instance_method(name).arity.zero? ? "" : "(...)"
            module_eval("def #{name}#{given} = @link.#{"#{part}." if part}#{name}#{given}", __FILE__, __LINE__)
          end
        end

        # @param link [LinkSubject]
        def initialize(link)
          @link = link
        end

        # @raise [NoMethodError] always: it says what to declare
        def method_missing(name, *)
          return super unless LinkSubject.public_method_defined?(name) || LinkSubject.part_with(name)

          side = Aspect::ALL.find { |_, aspect| aspect.names.include?(name) }&.first
          raise NoMethodError,
            "This check looks at “#{name}” of a link without saying so#{": add #{side.inspect} to what it `reads`" if side}. What is not declared is not remembered."
        end

        def respond_to_missing?(*) = false
      end
    end
  end
end
