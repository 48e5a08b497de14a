# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds required roles that no parameter carries.
      class Missing < Check
        describes "param/missing", weight: "breaks",
          why: "Without its source and medium a visit is recorded as direct, or under whatever site it happened to come from.",
          fails: "utm_source=island-letter", passes: "utm_source=island-letter&utm_medium=email"

        def findings
          subject.missing_roles.map do |role|
            finding("The link carries no #{role.name} (#{role.carrier}), so reports cannot say where its visits came from.",
              parameter: role.carrier, place: {"role" => role.name}, evidence: [subject.address.raw],
              correction: value_for(role), root: "param/missing", remedy: remedy)
          end
        end

        private

        # One piece of work for all roles that a link lacks.
        def remedy
          lacking = subject.missing_roles.map { |role| [role.carrier, value_for(role)] }
          known = lacking.all?(&:last)
          Remedy.new(at: "sighting",
            action: "Add #{lacking.map { |pair| pair.compact.join("=") }.join(", ")} to the links here.",
            value: (lacking.map { |name, value| "#{name}=#{Address::Pair.encode(value)}" }.join("&") if known))
        end

        def value_for(role)
          subject.only_value(role.name)
        end
      end
    end
  end
end
