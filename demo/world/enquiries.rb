# frozen_string_literal: true

require "securerandom"

class World
  # The group-booking enquiry in its variants: form, sending, and thank-you page with its conversion call.
  class Enquiries
    include Page

    # path of the form => the fault that it has while it stands
    VARIANTS = {"/groups/enquiry" => nil, "/groups/schools/enquiry" => "lead-early",
                "/groups/clubs/enquiry" => "lead-again"}.freeze

    def initialize(faults, variants: VARIANTS)
      @faults = faults
      @variants = variants
    end

    def call(request)
      path = request.path
      return form(path) if @variants.key?(path) && request.get?
      if @variants.key?(path) && request.post?
        return redirect("#{path.sub(/enquiry\z/, "thanks")}?enquiry=#{reference}",
          status: 303)
      end

      thanks(request) if @variants.key?(path.sub(/thanks\z/, "enquiry")) && path.end_with?("thanks")
    end

    private

    def reference = "G#{SecureRandom.random_number(100_000..999_999)}"

    def form(path)
      html("Group booking enquiry", <<~HTML)
        <h1>Group booking enquiry</h1><form method="post" action="#{path}">
        <label>Name <input name="name" required></label><label>E-mail <input name="email" type="email" required></label>
        <label>People <select name="people"><option>10</option><option>20</option><option>40</option></select></label>
        <button>Send enquiry</button></form>
      HTML
    end

    def thanks(request)
      fault = @variants[request.path.sub(/thanks\z/, "enquiry")]
      standing = fault && @faults.standing?(fault)
      call = conversion(escape(request.params["enquiry"].to_s[/\AG\d{6}\z/].to_s),
        guarded: !(standing && fault == "lead-again"))
      head = (standing && fault == "lead-early") ? call + Page::ANALYTICS : Page::ANALYTICS + call
      html("Thank you", "<h1 class=\"thanks\">Thank you</h1><p>We answer within two days.</p>", head: head)
    end

    def conversion(reference, guarded:)
      call = "gullwatch.send('lead', {oid: '#{reference}'})"
      if guarded
        call = "if (!sessionStorage.getItem('sent-#{reference}')) { sessionStorage.setItem('sent-#{reference}', '1'); #{call} }"
      end
      "<script>#{call}</script>"
    end
  end

  # The separate booking host: its pages carry the tag too, but know nothing of the visit on the other host.
  class Booking
    include Page

    def initialize(faults)
      @faults = faults
      @enquiries = Enquiries.new(faults, variants: {"/groups/enquiry" => "lead-lost"})
    end

    def call(request)
      @enquiries.call(request) || html("Book your crossing",
        "<h1>Book your crossing</h1><p>Choose a sailing, then pay at our payment partner.</p><a href=\"http://pay.coinquay.example/checkout\">Pay</a>")
    end
  end

  # The payment host.
  class Payment
    include Page

    def call(_request) = html("Pay", "<h1>Pay</h1><p>Cards and transfers.</p>", head: "")
  end
end
