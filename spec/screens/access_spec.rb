# frozen_string_literal: true

require_relative "../screen_helper"

# Every view held against axe's rules for WCAG 2.2 AA and its best practices, and its colours in both themes.
RSpec.describe "Access", :screens, :swept do
  axe = File.read(File.join(ROOT, "web/node_modules/axe-core/axe.min.js"))
  views = %w[links links/import links/import?from=paste links/build links/signposts links/over-all links/click-address convention convention/edit convention/edit?part=pairs
    convention/edit?part=scopes convention/edit?part=identifiers convention/edit?part=workspace convention/edit?part=channels convention/edit?part=dialects convention/learn convention/versions people tags tags/senders tags/not-opened tags/recording rehearsals rehearsals/record traffic traffic/table traffic/table?down=week&across=channel&source=tidepost&rows=source%3Dtidepost traffic/steps traffic/claims traffic/import
    fixes fixes?by=owner&show=all sweeps history settings]
  # The first row of these is opened too.
  lists = %w[links tags tags/senders rehearsals fixes]

  rules = {
    "light" => {"type" => "tag", "values" => %w[wcag2a wcag2aa wcag21aa wcag22aa best-practice]},
    "dark" => {"type" => "rule", "values" => %w[color-contrast]}
  }

  # @return [Array<String>] rule, and where it is broken
  define_method(:faults) do |theme|
    found =
      page.evaluate_async_script(<<~JS)
        window.axeOnPage.run(document, {runOnly: #{rules.fetch(theme).to_json}, preload: false})
          .then(found => arguments[0](found.violations.map(one => [one.id, one.nodes.map(node => node.target.join(" ")).slice(0, 3)])), error => arguments[0]([["axe", [String(error)]]]))
      JS
    found.map { |rule, nodes| "#{rule}: #{nodes.join(" · ")}" }
  end

  def still
    expect(page).to have_css("main")
    expect(page).to have_no_text("Loading …")
  end

  # Without moving: a colour on its way to another would be measured. Some parts follow a picture later.
  def in_dark
    page.execute_script(<<~JS)
      // The page's policy lets no further style element in.
      const still = new CSSStyleSheet();
      still.replaceSync("*, *::before, *::after { transition: none !important; animation: none !important }");
      document.adoptedStyleSheets = [still];
      document.documentElement.setAttribute("data-mantine-color-scheme", "dark");
    JS
    page.evaluate_async_script("requestAnimationFrame(() => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(arguments[0], 0))))")
    yield
  ensure
    page.execute_script("document.documentElement.setAttribute('data-mantine-color-scheme', 'light'); document.adoptedStyleSheets = []")
  end

  define_method(:in_both_themes) do
    page.execute_script("#{axe}; window.axeOnPage = axe; delete window.define")
    faults("light") + in_dark { faults("dark") }
  end

  it "has nothing against any view, nor against its colours in the dark" do
    broken =
      views.to_h do |view|
        open_screen(view)
        still
        [view, in_both_themes]
      end
    lists.each do |view|
      open_screen(view)
      still
      first("[role=row]:not(:has([role=columnheader]))").click
      expect(page).to have_css("[aria-label=Evidence]")
      still
      broken["#{view}, opened"] = in_both_themes
    end
    expect(broken.reject { |_, found| found.empty? }).to eq({})
  end
end
