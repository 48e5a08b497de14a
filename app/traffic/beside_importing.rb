# frozen_string_literal: true

require "openssl"

# Keeps what stands beside session rows: claims of networks, orders, touches. The same row again is the same
# row.
class BesideImporting < Importing
  # kind => reader, model, and the fields that make two rows one
  KINDS = {
    "claims" => [Orvant::Traffic::ClaimTable, Claim, %i[date network account campaign ad]],
    "orders" => [Orvant::Traffic::OrderTable, Order, %i[number]],
    "touches" => [Orvant::Traffic::TouchTable, Touch, %i[visitor at campaign source]]
  }.freeze

  private

  def reader = KINDS.fetch(@kind)[0]

  def model = KINDS.fetch(@kind)[1]

  def reading(bytes)
    options = {dates: @options[:dates], **((@kind == "claims") ? {network: @options[:network].to_s} : {})}
    reader.read(
      bytes.is_a?(Pathname) ? bytes.binread : bytes,
      matching: @options[:matching] || ColumnMatching.for(@workspace, @kind),
      **options
    )
  end

  def fields = reader.fields

  # Claims that stand there twice are kept twice: that they do is told where they are reckoned up.
  def identity(row)
    digest([
      *KINDS.fetch(@kind)[2].map { |field| row[field].to_s },
      ((@kind == "claims") ? row.line : nil)
    ].compact)
  end

  def known(_identities) = []

  # Orders are known by their numbers.
  def forget_half
    return if model == Order

    model.where(import_id: @import.id).in_batches(of: BATCH, &:delete_all)
    @import.update_columns(added: 0)
  end

  def sample(row)
    row.to_h.transform_keys(&:to_s)
      .transform_values { |value| value.respond_to?(:iso8601) ? value.iso8601 : value }
  end

  def keep(batch)
    rows = batch.map do |row|
      {
        workspace_id: @workspace.id,
        import_id: @import.id,
        **row.to_h.except(:line, :number),
        **hidden(row),
        **((model == Order) ? {order_number: row.number} : {})
      }
    end
    (model == Order) ? keep_orders(rows) : model.insert_all(rows)
    rows.size
  end

  # An order that comes again holds as it is said last.
  def keep_orders(rows)
    rows = rows.reverse.uniq { |row| row[:order_number] }.reverse
    model.upsert_all(rows, unique_by: [:workspace_id, :order_number])
  end

  # Who somebody is is never stored: the same visitor has the same digest in this workspace, and in no other.
  def hidden(row)
    return {} unless row.respond_to?(:visitor)

    {visitor: row.visitor.to_s.empty? ? "" : OpenSSL::HMAC.hexdigest(
      "SHA256",
      "#{Secret.salt}-#{@workspace.id}",
      row.visitor
    )[0, Orvant::Cut::DIGEST]}
  end

  def afterwards = nil
end
