# frozen_string_literal: true

module Orvant
  # The evidence of one link: its hops, from click to landing page.
  #
  # address: as given · outcome: one of OUTCOMES · final_address: the last address, requested or refused;
  # where a script rewrote it, as the visitor sees it · status: of the last answer · reason: a sentence where
  # it did not land · engine: `http` or `browser` · visitor: as whom it was followed · hops: Array<Hop> ·
  # landing: what the landing page says of itself, or nil · attempts: what a page tried to open that left its
  # visitor where they were: apps, mail, telephone numbers, downloads, pages that it left before they were
  # shown · look: Look, whether a browser has looked. Not kept: body and headers of the landing page, unseen:
  # the addresses on the way of which only a browser can tell what they do, acts: whether their scripts may
  # act on values in their addresses, and held: Array<Browser::Held>, what its last page asked for and was
  # held.
  Trail = Struct.new(:address,
    :outcome,
    :final_address,
    :status,
    :reason,
    :engine,
    :visitor,
    :hops,
    :landing,
    :attempts,
    :look,
    :body,
    :headers,
    :unseen,
    :acts,
    :held,
    keyword_init: true) do
    # @return [Hash{String => Object}] for JSON
    def to_h
      {"address" => address,
       "outcome" => outcome,
       "final_address" => final_address,
       "status" => status,
       "reason" => reason,
       "engine" => engine,
       "visitor" => visitor,
       "hops" => hops.map(&:to_h),
       "landing" => landing,
       "attempts" => attempts.to_a,
       "look" => seen.to_h}
    end

    # @return [Look] what is known of it: of itself a trail knows whether a browser followed it, or none needs
    #   to
    def seen
      return look if look

      if engine == "browser"
        Trail::Look.new(by: "browser")
      else
        Trail::Look.new(by: unseen.to_a.any? ? "nobody" : "http", could_run: unseen, acts: acts || nil)
      end
    end

    # @return [Page::Markup] of the landing page; what a browser shows is text already
    def markup
      return Page::Markup.of(body) if engine == "browser"

      Page::Markup.of(
        body,
        headers.to_h["content-type"].to_s,
        language: visitor && Net::Visitor.of(visitor).language
      )
    end

    def landed? = outcome == "landed"

    # @return [Boolean] whether the last hop gave a page, good or bad
    def answered? = %w[landed broken].include?(outcome)

    # @return [Float] milliseconds that all hops took
    def ms = hops.sum { |hop| hop.ms.to_f }.round(1)

    # @param limit [Numeric] milliseconds that are permitted
    # @return [Boolean] whether a page came, good or bad, and later than that
    def slow?(limit) = answered? && ms > limit

    # @return [Boolean] whether a server on the way kept its visitor waiting for too long
    def silent? = outcome == "unreachable" && reason.to_s.include?(Net::Door::SILENT)

    # @param other [Trail] of the same link, followed as another visitor
    # @return [Integer, nil] the number of the first hop that is not the same, from 1; nil where the two never
    #   part
    def parts_from(other)
      ours, theirs = [self, other].map { |trail| trail.hops.map { |hop| [hop.address, hop.how] } }
      index = (0...[ours.size, theirs.size].max).find { |at| ours[at] != theirs[at] }
      return index && index + 1 if index || final_address == other.final_address

      hops.size
    end
  end

  class Trail
    OUTCOMES = %w[landed broken unreachable loop too_many refused].freeze
    # What one hop did to one parameter.
    FATES = %w[kept altered dropped added repeated moved].freeze
    # How a hop passes on: by its status, a `Refresh` header, a meta refresh, a script; `history` is no hop:
    # the page's script rewrote the address that it stands at.
    WAYS = %w[status refresh meta script history].freeze

    # One request and its answer. address: as requested · status · how: one of WAYS, nil at the end · ms ·
    # referrer: that was sent, nil where none was · params: Array<Fate>.
    Hop = Struct.new(:address, :status, :how, :ms, :referrer, :params, keyword_init: true) do
      def to_h
        {
          "address" => address,
          "status" => status,
          "how" => how,
          "ms" => ms,
          "referrer" => referrer,
          "params" => params.map(&:to_h)
        }
      end
    end

    # Who has looked at the pages of a trail as a visitor would. by: `browser` (it was followed in one),
    # `page` (a browser saw that its pages do what HTTP has read, with another link that leads there), `http`
    # (nothing on them can run, so that HTTP reads all), `nobody` · on: when, ISO 8601, and as: with which
    # address, where it was another · ms: how long the browser watched · ended: why it stopped (`still`,
    # `patience`, `bounds`) · could_run: the addresses on the way of which only a browser can tell what they
    # do · acts: whether their scripts may act on values in the address · undecided: what the last page asked
    # for and was held, method and address: what it would do with an answer nobody has seen · failed: the last
    # script of the page that failed, as the browser says it · again: what the first host said when it was
    # asked a second time, where that differs and the first answer counts.
    Look = Struct.new(
      :by,
      :on,
      :as,
      :ms,
      :ended,
      :could_run,
      :acts,
      :undecided,
      :failed,
      :again,
      keyword_init: true
    ) do
      # @return [Boolean]
      def done? = by != "nobody"

      def to_h = super.transform_keys(&:to_s).reject { |_, value| value.nil? || value == [] }
    end

    # What a hop did to one parameter: name, decoded value before and after (nil where there is none), the
    # fate, and what was done to an altered value (`re-encoded`, `folded`, `cut`, `replaced`).
    Fate = Struct.new(:name, :before, :after, :fate, :how, keyword_init: true) do
      def to_h
        {"name" => name, "before" => before, "after" => after, "fate" => fate, "how" => how}
      end
    end

    # What an error says to whoever meets it (RFC 9110, 15).
    ERRORS = {
      401 => "it asks for a password",
      403 => "it refuses its visitors",
      404 => "there is no such page",
      410 => "the page is gone for good",
      429 => "it asks for patience",
      451 => "it is withheld for legal reasons",
      500 => "its server has failed",
      502 => "a server behind it gives no proper answer",
      503 => "its server is overloaded or closed for maintenance",
      504 => "a server behind it does not answer in time"
    }.freeze

    # @param status [Integer] 400 or more
    # @return [String] a sentence
    def self.broken_reason(status)
      said = ERRORS[status]
      "The landing page answers #{status}#{": #{said}" if said}."
    end

    # @param document [Hash] what `to_h` gave
    # @return [Trail]
    def self.from_h(document)
      hops = document["hops"].map do |hop|
        Hop.new(**hop.slice("address", "status", "how", "ms", "referrer").transform_keys(&:to_sym),
          params: hop["params"].map { |fate| Fate.new(**fate.transform_keys(&:to_sym)) })
      end
      look = Look.new(**document["look"].transform_keys(&:to_sym)) if document["look"]
      new(
        **document.slice(
          "address",
          "outcome",
          "final_address",
          "status",
          "reason",
          "engine",
          "visitor",
          "landing",
          "attempts"
        )
          .transform_keys(&:to_sym),
        hops: hops,
        look: look,
        unseen: look&.could_run,
        acts: look&.acts
      )
    end
  end
end
