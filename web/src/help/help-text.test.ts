import { readdirSync, readFileSync } from 'node:fs'
import { anchorOf, HELP_PAGES, helpAddress } from './help-pages'
import { helpText } from './help-text'

const documentOf = (name: string) => readFileSync(`docs/${name}.md`, 'utf8')

test('every document for users is a page of help, under the title that it has', () => {
  const documents = readdirSync('docs').filter((file) => file.endsWith('.md')).map((file) => file.slice(0, -3))
  expect(HELP_PAGES.map(({ name }) => name).toSorted()).toEqual(documents.filter((name) => name !== 'working-on-it').toSorted())
})

test('headings have places, and links between documents lead to pages and places that are there', () => {
  const texts = new Map(HELP_PAGES.map(({ name }) => [name, helpText(documentOf(name))]))
  let links = 0
  for (const { html } of texts.values()) {
    for (const [, address] of html.matchAll(/href="(\/help\/[^"]*)"/g)) {
      const [, name, anchor] = /^\/help\/([\w-]+)(?:#(.*))?$/.exec(address!)!
      expect(texts.get(name!)!.html).toContain(anchor ? `id="${anchor}"` : '<h1')
      links++
    }
    expect(html).not.toMatch(/href="[^"]*\.md/)
    expect(html).not.toContain('style=')
  }
  expect(links).toBeGreaterThan(5)
})

test('places of the work begin help at headings that are there', () => {
  const asked = ['web/src/router.ts', 'web/src/bench/BenchPage.vue'].flatMap((file) => [...readFileSync(file, 'utf8').matchAll(/help: '([^']+)'|(?:scale|rules|match|grid): '(a-[\w-]+|rules)'/g)].map(([, whole, form]) => whole ?? `using#${form}`))
  expect(asked.length).toBeGreaterThan(14)
  for (const place of asked) {
    const [name, anchor] = place.split('#')
    const { html } = helpText(documentOf(name!))
    expect([place, anchor === undefined || html.includes(`id="${anchor}"`)]).toEqual([place, true])
  }
})

test('HTML in a document is shown as it is written', () => {
  expect(helpText('# A\n\n<script>alert(1)</script>\n\n## Not `this` one').html).toContain('&lt;script&gt;')
  expect(helpText('# A\n\n## Not `this` one\n\n## Nor that').headings).toEqual([{ words: 'Not this one', anchor: 'not-this-one' }, { words: 'Nor that', anchor: 'nor-that' }])
})

test('a column that is set to the right is told by a class', () => {
  expect(helpText('| a | b |\n|:--|--:|\n| 1 | 2 |').html).toContain('<td class="right">2</td>')
})

test.each([['sql.md', '/help/sql'], ['sql.md#in-a-cluster', '/help/sql#in-a-cluster'], ['working-on-it.md', null], ['../README.md', null], ['https://example.org', null]])('%s leads to %s', (link, address) => {
  expect(helpAddress(link)).toBe(address)
})

test('an anchor has words and hyphens alone', () => {
  expect(anchorOf('What is “promised”, and why?')).toBe('what-is-promised-and-why')
})
