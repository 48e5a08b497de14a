# frozen_string_literal: true

require "csv"
require "digest"
require "tempfile"
require "zip"

# A bundle as a file that somebody has sent: what stands in it is read as data, within bounds, and nowhere
# written under its own name.
class BundleArchive
  # Bytes of one part and of all, unpacked; an archive may hold so many entries.
  MOST_PART = 1_073_741_824
  MOST = 2 * MOST_PART
  MOST_PICTURE = 8 * 1_048_576
  MOST_ENTRIES = 200_000
  # Bytes of a document that is read at once.
  MOST_JSON = 32 * 1_048_576
  # Bytes of one row, however many lines it has.
  MOST_ROW = 8 * 1_048_576
  # Rows, and bytes of rows, that are read and kept at once.
  BATCH = 250
  BATCH_BYTES = 1_048_576
  QUOTED = /"(?:[^"]|"")*"/
  PNG = "\x89PNG\r\n\x1A\n".b

  # @param file [String] path
  # @yieldparam archive [BundleArchive]
  # @return what the block returns
  # @raise [Orvant::Error] where it is no bundle
  def self.open(file)
    Zip::File.open(file) { |zip| yield new(zip) }
  rescue Zip::Error, Zlib::Error, IOError, SystemCallError => error
    raise if NoRoom.behind?(error)

    raise Orvant::Error,
      "This is no bundle of a workspace, or it is damaged: write it anew under Settings, Take everything out."
  end

  # @param zip [Zip::File]
  def initialize(zip)
    @zip = zip
    @unpacked = 0
    hold_entries
    @digests = has?(Bundle::DIGESTS) ? hash(Bundle::DIGESTS) : {}
    hold_digests
  end

  # @param name [String]
  # @return [Boolean]
  def has?(name) = !@zip.find_entry(name).nil?

  # @param name [String] of a part
  # @return [Integer] its rows as the bundle says; 0 where it does not
  def rows(name) = @digests[name].to_h["rows"].to_i

  # @param name [String]
  # @return [Hash{String => Object}]
  # @raise [Orvant::Error] where it is none
  def hash(name) = json(name).then { |read| read.is_a?(Hash) ? read : wrong(name, "it is no JSON object") }

  # @param name [String]
  # @return [Array<Hash>]
  # @raise [Orvant::Error] where it is none
  def list(name)
    json(name).then { |read|
      (read.is_a?(Array) && read.all?(Hash)) ? read : wrong(name, "it is no list of objects")
    }
  end

  # The rows of a table, as many at once as fit.
  #
  # @param name [String]
  # @yieldparam rows [Array<Hash{String => String, nil}>]
  # @return [void]
  # @raise [Orvant::Error] naming file and row
  def table(name, &keep)
    unpack(name, MOST_PART) do |file|
      file.set_encoding(Encoding::UTF_8)
      @name, @row = name, 0
      columns = parse(next_row(file).to_s).first.to_a
      each_batch(file, columns.size) { |text|
        keep.call(parse(text).map { |cells|
          columns.zip(plain(cells)).to_h
        })
      }
    end
  end

  # @yieldparam sweep [Integer] number of its row
  # @yieldparam script [Integer] number of its row
  # @yieldparam name [String] of the picture
  # @yieldparam bytes [String] PNG
  def pictures
    @zip.entries.each do |entry|
      sweep, script, name = Bundle::PICTURE.match(entry.name)&.captures
      next unless sweep

      bytes = unpack(entry.name, MOST_PICTURE, &:read)
      raise Orvant::Error, "#{entry.name} is no picture." unless bytes.b.start_with?(PNG)

      yield sweep.to_i, script.to_i, name, bytes
    end
  end

  private

  def hold_entries
    names = @zip.entries.map { |entry| entry.name.dup.force_encoding(Encoding::UTF_8).scrub }
    raise Orvant::Error, "The archive holds more than #{MOST_ENTRIES} entries." if names.size > MOST_ENTRIES

    strange = names.find { |name| !Bundle.part?(name) }
    raise Orvant::Error, "“#{strange[0, Orvant::Cut::QUOTE]}” is no part of a bundle." if strange
    return if has?(Bundle::HEAD)

    raise Orvant::Error, "The archive lacks #{Bundle::HEAD}: it is no bundle of a workspace."
  end

  # What the bundle says that it holds.
  def hold_digests
    missing = @digests.keys.find { |name| !has?(name) }
    raise Orvant::Error, "The bundle is damaged: #{missing[0, Orvant::Cut::QUOTE]} is missing." if missing
    return if @digests.values.all?(Hash)

    wrong(Bundle::DIGESTS, "it is no list of what the bundle holds")
  end

  # What an entry says of its own size is not believed.
  def unpack(name, most)
    Tempfile.create("orvant-part", binmode: true) do |file|
      digest = Digest::SHA256.new
      @zip.find_entry(name).get_input_stream do |stream|
        while (chunk = stream.read(65_536))
          digest << chunk
          @unpacked += chunk.bytesize
          raise Orvant::Error, "#{name} is larger than Orvant unpacks." if file.size + chunk.bytesize > most || @unpacked > MOST

          file.write(chunk)
        end
      end
      hold_digest(name, digest.hexdigest)
      file.rewind
      yield file
    end
  end

  def hold_digest(name, digest)
    said = @digests.to_h[name].to_h["sha256"]
    return if said.nil? || said == digest

    raise Orvant::Error, "The bundle is damaged: #{name} is not as it was written."
  end

  def json(name)
    text = unpack(name, MOST_JSON, &:read).force_encoding(Encoding::UTF_8)
    text.valid_encoding? ? JSON.parse(text) : wrong(name, "it is no text in UTF-8")
  rescue JSON::ParserError
    wrong(name, "it is no JSON")
  end

  def each_batch(file, width)
    batch, many = +"", 0
    while (row = next_row(file))
      hold_width(row, width)
      batch << row
      next unless (many += 1) == BATCH || batch.bytesize > BATCH_BYTES

      yield batch
      batch, many = +"", 0
    end
    yield batch if many.positive?
  end

  # A row goes on over the ends of lines that stand in quotes (RFC 4180).
  def next_row(file)
    row = +""
    while (line = file.gets("\n", MOST_ROW))
      fail_at("it is no text in UTF-8") unless line.valid_encoding?
      row << line
      if row.bytesize >= MOST_ROW
        fail_at("it is larger than #{MOST_ROW / 1_048_576} MB")
      end
      break if line.end_with?("\n") && row.count('"').even?
    end
    return if row.empty?

    @row += 1
    row
  end

  # Cells of which there are more than columns are nobody's, and would fill the memory.
  def hold_width(row, width)
    fail_at("it has more cells than the table has columns") if row.gsub(QUOTED, "").count(",") >= width
  end

  def parse(text)
    CSV.parse(text)
  rescue CSV::MalformedCSVError => error
    fail_at(error.message[0, Orvant::Cut::FAILURE])
  end

  # The sign that keeps spreadsheets from computing a text is no part of it.
  def plain(cells) = cells.map { |text| text&.delete_prefix("'") }

  # The first line names the columns.
  def fail_at(what) = raise(Orvant::Error, "#{@name}, row #{[@row - 1, 1].max}: #{what}.")

  def wrong(name, what) = raise(Orvant::Error, "#{name}: #{what}.")
end
