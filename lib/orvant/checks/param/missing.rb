# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds required roles that no parameter carries.
      class Missing < Check
        describes "param/missing", weight: "breaks",
          why: "Without its source and medium a visit is recorded as direct, or under whatever site it happened to come from.",
          fails: "utm_source=island-letter", passes: "utm_source=island-letter&utm_medium=email"
        reads :faults, :required, :lost, :parts
        means :no_value

        def findings
          lacking = subject.missing_roles.reject { |role| subject.lost.include?(role.name) }
          lacking.map do |role|
            value = subject.only_value(role.name)
            finding("The link carries no #{role.name} (#{role.carrier}), so reports cannot say where its visits came from.#{in_path(role)}",
              parameter: role.carrier,
              place: {"role" => role.name},
              evidence: [subject.evidence],
              correction: value,
              edits: value && [Edit.new(name: role.carrier, value: value)],
              root: "param/missing",
              remedy: remedy(lacking))
          end
        end

        private

        # A parameter of the path is none of the query.
        def in_path(role)
          seen = subject.path_carrier(role)
          seen && " “#{seen}” stands in the path, where no reader looks for it."
        end

        # One piece of work for all roles that a link lacks.
        def remedy(lacking)
          pairs = lacking.map { |role| [role.carrier, subject.only_value(role.name)] }
          Remedy.new(at: "sighting",
            action: "Add #{pairs.map { |pair| pair.compact.join("=") }.join(", ")} to the links here.",
            value: (if pairs.all?(&:last)
                      pairs.map { |name, value|
                        "#{name}=#{Address::Pair.encode(value)}"
                      }.join("&")
                    end))
        end
      end
    end
  end
end
