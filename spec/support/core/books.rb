# frozen_string_literal: true

require "zip"

# Spreadsheets as bytes, built by hand so that specs say what stands in them. A cell is a text, a number, or a
# Hash of `text` with `link` (what it leads to) or `formula`.
module Books
  TYPES = "<Types xmlns=\"http://schemas.openxmlformats.org/package/2006/content-types\"/>"
  MAIN =
    "xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\" xmlns:r=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships\""
  COLUMNS = ("A".."Z").to_a.freeze
  RELATIONS = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
  OASIS =
    %w[office table text]
      .map { |name| "xmlns:#{name}=\"urn:oasis:names:tc:opendocument:xmlns:#{name}:1.0\"" }
      .push("xmlns:xlink=\"http://www.w3.org/1999/xlink\"")
      .join(" ")

  module_function

  def zip(files)
    Zip::OutputStream
      .write_buffer { |out| files.each { |name, text| out.put_next_entry(name) && out.write(text) } }
      .string
  end

  # @param sheets [Hash{String => Array<Array>}] name => rows
  def xlsx(sheets)
    names = sheets.keys.each.with_index(1)
    zip(
      "[Content_Types].xml" => TYPES,
      "xl/styles.xml" => "<styleSheet #{MAIN}/>",
      "xl/workbook.xml" =>
        "<workbook #{MAIN}><sheets>#{names.map { |name, number| "<sheet name=\"#{name}\" sheetId=\"#{number}\" r:id=\"rId#{number}\"/>" }.join}</sheets></workbook>",
      "xl/_rels/workbook.xml.rels" =>
        relations(names.map { |_, number| ["rId#{number}", "worksheet", "worksheets/sheet#{number}.xml"] }),
      **sheets.values.each.with_index(1).reduce({}) { |files, (rows, number)| files.merge(xlsx_sheet(rows, number)) }
    )
  end

  def xlsx_sheet(rows, number)
    links =
      rows
        .flat_map
        .with_index(1) do |row, line|
          row.each_with_index.filter_map do |cell, column|
            cell.is_a?(Hash) && cell[:link] && ["#{COLUMNS[column]}#{line}", cell[:link]]
          end
        end
    marks = links.each_index.map { |index| "<hyperlink ref=\"#{links[index].first}\" r:id=\"h#{index}\"/>" }.join
    cells =
      rows
        .map
        .with_index(1) do |row, line|
          "<row r=\"#{line}\">#{row.map.with_index { |cell, column| xlsx_cell(cell, "#{COLUMNS[column]}#{line}") }.join}</row>"
        end
        .join
    {
      "xl/worksheets/sheet#{number}.xml" =>
        "<worksheet #{MAIN}><sheetData>#{cells}</sheetData>#{"<hyperlinks>#{marks}</hyperlinks>" if links.any?}</worksheet>",
      "xl/worksheets/_rels/sheet#{number}.xml.rels" =>
        relations(links.map.with_index { |(_, target), index| ["h#{index}", "hyperlink", target, "External"] })
    }
  end

  def xlsx_cell(cell, place)
    return "<c r=\"#{place}\"><v>#{cell}</v></c>" if cell.is_a?(Numeric)
    if cell.is_a?(Hash) && cell[:formula]
      return "<c r=\"#{place}\" t=\"str\"><f>#{escaped(cell[:formula])}</f><v>#{escaped(cell[:text])}</v></c>"
    end

    "<c r=\"#{place}\" t=\"inlineStr\"><is><t>#{escaped(cell.is_a?(Hash) ? cell[:text] : cell)}</t></is></c>"
  end

  def relations(list)
    "<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\">#{list.map { |id, type, target, mode| "<Relationship Id=\"#{id}\" Type=\"#{RELATIONS}/#{type}\" Target=\"#{escaped(target)}\"#{" TargetMode=\"#{mode}\"" if mode}/>" }.join}</Relationships>"
  end

  # @param rows [Array<Array>]
  # @param after [String] markup of further rows
  def ods(rows, after: "")
    cells = rows.map { |row| "<table:table-row>#{row.map { |cell| ods_cell(cell) }.join}</table:table-row>" }.join
    zip(
      "mimetype" => "application/vnd.oasis.opendocument.spreadsheet",
      "META-INF/manifest.xml" =>
        "<manifest:manifest xmlns:manifest=\"urn:oasis:names:tc:opendocument:xmlns:manifest:1.0\"/>",
      "styles.xml" => "<x/>",
      "content.xml" =>
        "<office:document-content #{OASIS}><office:body><office:spreadsheet><table:table table:name=\"Ads\">#{cells}#{after}</table:table></office:spreadsheet></office:body></office:document-content>"
    )
  end

  def ods_cell(cell)
    if cell.is_a?(Numeric)
      return (
        "<table:table-cell office:value-type=\"float\" office:value=\"#{cell}\"><text:p>#{cell}</text:p></table:table-cell>"
      )
    end
    if cell.is_a?(Hash)
      return (
        "<table:table-cell office:value-type=\"string\"><text:p><text:a xlink:href=\"#{escaped(cell[:link])}\">#{escaped(cell[:text])}</text:a></text:p></table:table-cell>"
      )
    end

    "<table:table-cell office:value-type=\"string\"><text:p>#{escaped(cell)}</text:p></table:table-cell>"
  end

  def escaped(text) = text.gsub("&", "&amp;").gsub("<", "&lt;").gsub("\"", "&quot;")
end
