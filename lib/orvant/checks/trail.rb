# frozen_string_literal: true

module Orvant
  module Checks
    # The family on the hops of a link.
    module Trail
      # What hops do to parameters, the gravest first.
      CHANGES = %w[trail/dropped trail/overwritten trail/altered].freeze

      class << self
        # @param trail [Orvant::Trail]
        # @param convention [Convention]
        # @param follow [#call, nil] address text => Orvant::Trail; without it no corrected address is
        #   offered, since none can be proven
        # @param sightings [Array<Inventory::Sighting>] where the link was found: some rules depend on what
        #   they say
        # @return [Array<Finding>]
        def judge(trail, convention, sightings: [], follow: nil)
          subject = TrailSubject.new(trail, convention, sightings: sightings)
          found = one_root_a_hop(checks.flat_map { |check| check.new(subject).findings }, subject)
          found.each do |finding|
            prove(finding, subject, follow) if finding.corrected_address
            if finding.code == "trail/stale-target" && finding.remedy.value
              prove_value(finding, subject,
                follow)
            end
          end
        end

        # @param example [Array<String>] addresses in the order of the hops, the last with its outcome: `[…,
        #   "404"]`; see Sample
        # @return [Array<Finding>]
        def sample(example)
          if example.first.start_with?("ad ")
            return Param.judge_all(Sample.ads(example), Param::Sample.convention)
          end

          judge(Sample.trail(example), Param::Sample.convention, sightings: Sample.sightings(example))
        end

        private

        # What one hop does to parameters is one rule on its server, and one piece of work; what two hops do
        # is two, though they be one page with TLS and without.
        def one_root_a_hop(found, subject)
          doings = found.select { |one| CHANGES.include?(one.code) }
          taken = {}
          doings.group_by { |one| one.place["hop"] }.each do |hop, same|
            first = same.min_by { |one| CHANGES.index(one.code) }
            root = first.root
            root += " over #{subject.addresses[hop - 1].scheme}" if taken.fetch(root, hop) != hop
            taken[root] = hop
            same.each { |one| one.root, one.remedy = root, first.remedy }
          end
          found
        end

        def checks = @checks ||= Check.family("trail").reject { |check| check < Param::SetCheck }

        # What is offered was tried: followed, and found to arrive whole. An example is followed, but not
        # handed out: where it stands, the network fills in something else.
        def prove(finding, subject, follow)
          offered = finding.corrected_address
          unless follow && clean?(follow.call(offered), subject.convention)
            return finding.corrected_address = nil
          end

          finding.corrected_address = Inventory::Samples.put_back(Address.new(offered), subject.sightings).raw
          remedy = finding.remedy.dup
          remedy.action += " Until then link to #{Address.new(offered).page} itself: that was followed, and keeps all."
          finding.remedy = remedy
        end

        # A value that nobody has tried is no advice.
        def prove_value(finding, subject, follow)
          return if follow.nil? || clean?(follow.call(finding.remedy.value), subject.convention)

          remedy = finding.remedy.dup
          remedy.value = nil
          remedy.action += " The register's target does not arrive whole itself: say which page is meant."
          finding.remedy = remedy
        end

        def clean?(trail, convention)
          subject = TrailSubject.new(trail, convention)
          trail.landed? && checks.all? { |check| check.new(subject).findings.empty? }
        end
      end
    end
  end
end
