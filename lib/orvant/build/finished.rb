# frozen_string_literal: true

module Orvant
  module Build
    # One finished link with its verdict, cell by cell.
    class Finished
      # Checks whose values may be put forward for the vocabulary.
      PROPOSABLE = %w[param/unknown-value param/near-miss param/wrong-role].freeze

      attr_reader :row, :reason

      # @param row [Row]
      # @param convention [Convention]
      # @param landings [Hash{String => Landing}] by normal form, those that were followed
      def initialize(row, convention, landings = {})
        @row = row
        @convention = convention
        @landings = landings
        @landing = Address.parse(row.landing)
      rescue Error::UnusableAddress => error
        @reason = error.message
      end

      # @return [Boolean] whether nothing was filled in
      def blank? = row.landing.empty? && row.values.empty?

      # @return [Address, nil] nil where the landing address is none
      def address
        return unless @landing

        @address ||= Address.new([bare, query, @landing.fragment && "##{@landing.fragment}"].compact.join)
      end

      # @return [Array<Finding>]
      def findings
        @findings ||=
          if address
            Checks::Param.judge(address, @convention, kind: row.kind, sightings: [sighting])
          else
            []
          end
      end

      # @return [Boolean] whether the convention rejects it
      def rejected? = !blank? && (address.nil? || findings.any? || lost.any?)

      # @return [Array<String>] its parameters that the landing address, followed, is known to lose
      def lost
        @lost ||=
          if (known = landing)
            known.lost & @convention.roles.select { |role| row.values.key?(role.name) }.flat_map(&:carriers)
          else
            []
          end
      end

      # @return [Boolean] whether it may leave: nothing is wrong, or the person has said why it leaves
      #   nevertheless
      def leaves? = !blank? && !address.nil? && (!rejected? || !row.exception.empty?)

      # @return [String] where visits by it will be counted
      def channel
        @convention.channel_rules.classify(row.values.slice(
          *Checks::Param::LinkSubject::LEADING,
          "campaign",
          "content",
          "term"
        )).channel
      end

      # @return [Hash{String => Hash}] for each role with a finding: weight, message, and the value that would
      #   pass where one is known
      def cells
        findings.each_with_object({}) do |finding, cells|
          role = role_of(finding) or next
          cells[role] ||= cell(finding.weight, finding.code, finding.message, meant(finding, role))
        end
      end

      # @return [Hash{String => Object}] for JSON
      def to_h
        {"landing_known" => @landing.nil? || !own? || !landing.nil?,
         "address" => address&.raw,
         "channel" => address && channel,
         "cells" => cells.merge(landing_cell),
         "weight" => weight,
         "rejected" => rejected?,
         "leaves" => leaves?,
         "findings" => findings.map { |one|
           {
             "code" => one.code,
             "weight" => one.weight,
             "message" => one.message
           }
         }}
      end

      # @return [Inventory::Sighting] as which it is judged, here and when it has left
      def sighting
        Inventory::Sighting.new(
          kind: row.kind,
          facts: {"network" => (dialect&.network if row.kind == "ad")}.compact
        )
      end

      private

      # What the landing address itself says of a role gives way to the cell.
      def bare
        names = row.values.keys.flat_map { |role| @convention.role(role)&.carriers || [] }
        kept = @landing.pairs.reject { |pair| names.include?(pair.name) }.map(&:raw)
        "#{@landing.scheme}://#{@landing.authority}#{@landing.path.empty? ? "/" : @landing.path}#{"?#{kept.join("&")}" if kept.any?}"
      end

      def query
        said = @convention.roles.filter_map { |role|
          (text = row.values[role.name]) &&
            "#{Address::Pair.encode(role.carrier)}=#{written(text)}"
        } + identifiers
        "#{bare.include?("?") ? "&" : "?"}#{said.join("&")}" if said.any?
      end

      # A network fills only tokens that stand as they are.
      def written(text)
        return Address::Pair.encode(text) unless dialect && row.kind == "ad"

        pieces = text.split(/(#{dialect.anywhere.source})/)
        pieces.map { |piece|
          piece.match?(/\A#{dialect.anywhere.source}\z/) ? piece : Address::Pair.encode(piece)
        }.join
      end

      # A network is commonly a source of the same name.
      def dialect = @dialect ||= @convention.dialect(row.network || row.values["source"])

      def identifiers
        @convention.identifiers.filter_map do |one|
          if one.token && wanted?(one) && @landing.occurrences(one.parameter).empty?
            "#{Address::Pair.encode(one.parameter)}=#{one.token}"
          end
        end
      end

      def wanted?(identifier)
        identifier.asked_of?(row.kind, row.values["source"], sighting.facts["network"]) do
          row.kind == "ad" || @convention.channel_rules.paid?(channel)
        end
      end

      def role_of(finding)
        finding.place["role"] || (@convention.carriers[finding.parameter]&.name if finding.parameter)
      end

      def meant(finding, role)
        return finding.correction if finding.correction && finding.code != "param/misspelled-name"

        known = @convention.role(role)&.vocabulary
        known&.near(row.values[role].to_s)
      end

      # @return [Landing, nil]
      def landing = @landing && @landings[@landing.normal_form]

      def own? = @convention.own_hosts.cover?(@landing.host)

      def cell(weight, code, message, meant)
        {
          "weight" => weight,
          "code" => code,
          "message" => message,
          "meant" => meant,
          "proposable" => PROPOSABLE.include?(code)
        }
      end

      def lossy_cell
        said = "On the way from this address #{lost.join(", ")} #{(lost.size == 1) ? "is" : "are"} lost: visits arrive without."
        {"landing" => cell("breaks", "trail/dropped", said, landing.offer)}
      end

      def landing_cell
        return lossy_cell if lost.any?
        return {} if blank? || @reason.nil?

        {"landing" => cell("breaks", nil, @reason, nil)}
      end

      def weight
        return "breaks" if (@reason && !blank?) || lost.any?

        findings.map(&:weight).min_by { |one| Orvant::Finding::WEIGHTS.index(one) } || ""
      end
    end
  end
end
