# frozen_string_literal: true

module Orvant
  class Trail
    # The address by which a link's parameters are judged. A short link, click counter or out-link is judged
    # where its trail first reaches an own host, with its campaign parameters as they were first written: on
    # the link, in an address within it, or by the hop that added them; so is a short name on an own host that
    # leads to them. What a later hop did to them is that hop's fault and a finding of its own, never the
    # link's.
    class Arrival
      # Where one parameter ends and damage lets another begin within it.
      DAMAGE = "(?:[?;]|%3F|%26|&(?:amp;|#38;)+)"

      # @param trail [Trail]
      # @param convention [Convention]
      # @return [Address, nil] nil where the trail never reaches an own host, so nothing can be said
      def self.of(trail, convention)
        steps = (trail.hops.map(&:address) + [trail.final_address]).map { |text| Address.of(text) }
        own = steps.index { |address| convention.shows_own?(address.host) } or return
        own = named(steps, trail, convention) if own.zero? && short_name?(steps, convention)
        return unless own

        # The link's own text is judged as written, not as a browser rewrites it.
        return Address.of(trail.address.strip) if own.zero?

        new(steps.first(own + 1), convention).address
      end

      # Whether it says nothing itself and leads on.
      def self.short_name?(steps, convention)
        steps.uniq(&:page).size > 1 && !campaign?(steps.first, convention)
      end
      private_class_method :short_name?

      # @return [Integer, nil] the step at which it gets what it stands for; the first where it gets nothing
      #   on its way to an own page, nil where it never comes to one
      def self.named(steps, trail, convention)
        told = steps.index { |step| convention.shows_own?(step.host) && campaign?(step, convention) }
        told || (0 if trail.landed? && convention.shows_own?(steps.last.host))
      end
      private_class_method :named

      def self.campaign?(step, convention)
        names = convention.rules_for.names
        [step, *step.within].flat_map(&:pairs).any? { |pair| campaign_name?(pair.name, names) } ||
          step.fragment.to_s.match?(names.compiled(Patterns).in_fragment)
      end
      private_class_method :campaign?

      # @param link [Address] as it is written
      # @param judged [Address] where it was judged
      # @param corrected [Address] the same, mended
      # @return [Address] the link itself, mended where its parameters stand on it, or in an address within
      #   it; what only a register says is mended there, as `corrected`
      def self.write_back(link, judged, corrected)
        return corrected if link.page == judged.page

        nested = link.pairs.find { |pair|
          pair.value.match?(%r{\Ahttps?://}i) && Address.new(pair.value).page == judged.page
        }
        return link.with(edits: {nested => corrected.raw}) if nested

        changes = changes(judged, corrected)
        places = changes.keys.to_h { |raw| [raw, place_of(raw, link)] }
        added = corrected.pairs.map(&:raw) - judged.pairs.map(&:raw) - changes.values
        return corrected if places.value?(nil) || link.pairs.empty?

        write(link, places.to_h { |raw, pair| [pair.raw, changes[raw]] }, added)
      end

      # @return [Hash{String => String, nil}] parameters that were changed or taken out, as they stand
      def self.changes(judged, corrected)
        before, after = [judged, corrected].map { |address| address.pairs.map(&:raw) }
        return before.zip(after).reject { |one, other| one == other }.to_h if before.size == after.size

        (before - after).to_h { |raw| [raw, nil] }
      end
      private_class_method :changes

      # A server on the way may have written it otherwise.
      def self.place_of(raw, link)
        link.pairs.find { |pair| pair.raw == raw } ||
          link.pairs.find { |pair| pair.name == Address::Pair.new(raw).name }
      end
      private_class_method :place_of

      # @return [Address] the link with these changes
      def self.write(link, changes, added)
        kept = link.pairs.map(&:raw).filter_map { |raw| changes.fetch(raw, raw) }
        query = (kept + added).join("&")
        Address.new([
          link.raw[/\A[^?#]*/],
          ("?#{query}" unless query.empty?),
          ("##{link.fragment}" if link.fragment)
        ].join)
      end
      private_class_method :write

      # How campaign parameters stand where a hop has moved them: within another's value, behind the #.
      class Patterns
        attr_reader :within, :in_fragment, :begun

        # @param carrier [Regexp] names of campaign parameters
        def initialize(carrier)
          @within = /(?:#{DAMAGE}|(?<!\A)&)(?=(?:#{carrier})(?:=|%3D))/i
          @in_fragment = /(?:\A|[?&])(#{carrier})=/
          @begun = /\A#{carrier}/i
        end
      end

      # @param steps [Array<Address>] from the link to where it first reaches an own host
      # @param convention [Convention]
      def initialize(steps, convention)
        @steps = steps
        @names = convention.rules_for.names
        @patterns = @names.compiled(Patterns)
        @written = {}
      end

      # @return [Address]
      def address
        @steps.each_with_index { |step, index| note(step, first: index.zero?) }
        last = @steps.last
        query = parameters(last).join("&")
        Address.new([
          "#{last.scheme}://#{last.authority}#{whole(last.path)}",
          ("?#{query}" unless query.empty?),
          ("##{fragment}" if fragment)
        ].join)
      end

      # @param name [String] of a parameter
      # @param names [Convention::Names]
      # @return [Boolean] whether it is a campaign parameter's, or was meant as one
      def self.campaign_name?(name, names)
        names.include?(plain_name(name)) || names.include?(name) || !names.meant(name).nil?
      end

      # @param name [String] of a parameter
      # @return [String] without what servers on the way may do to it: other letters, or as in markup
      def self.plain_name(name) = name.downcase.sub(/\A(?:amp;)+/, "")

      private

      # Of each parameter the first step at which it stands tells how it was written.
      def note(step, first:)
        (within(step) + step.pairs).group_by { |pair| canon(pair.name) }.each do |name, pairs|
          @written[name] ||= pairs.map { |pair| first ? pair.raw : whole(pair.raw) }.uniq
        end
      end

      # An out-link carries the address that it leads to.
      def within(step)
        return [] if step.equal?(@steps.last)

        step.within.flat_map(&:pairs)
      end

      def canon(name) = self.class.plain_name(name)

      # Without what a hop has run into it of parameters that stood by themselves before.
      def whole(raw)
        return raw unless raw.match?(@patterns.within)

        raw.to_enum(:scan, @patterns.within).each do
          match = Regexp.last_match
          name = match.post_match[@patterns.begun]
          return match.pre_match if @written.key?(canon(name))
        end
        raw
      end

      def parameters(last)
        left = @written.dup
        here = last.pairs.flat_map { |pair| left.delete(canon(pair.name)).to_a }
        lost = left.values.flatten.select { |raw| self.class.campaign_name?(Address::Pair.new(raw).name, @names) }
        here + lost
      end

      # Parameters that a hop has moved behind the # stand before it again.
      def fragment
        last = @steps.last.fragment or return
        names = last.scan(@patterns.in_fragment).flatten
        moved = names.any? && names.all? { |name| @written.key?(canon(name)) }
        (moved && last != @steps.first.fragment) ? nil : last
      end
    end
  end
end
