import { readFileSync } from 'node:fs'
import { gateDocumentSchema } from '@dime-gate/contract/gate-document'
import { parseDate } from '@dime-gate/core/value/temporal'
import { readConditional } from '@dime-gate/interchange/conditional/gate-from-conditional'
import { readThreshold } from '@dime-gate/interchange/chart/read-threshold'
import { writeDmn } from '@dime-gate/interchange/dmn/dmn'
import { gateToFormula } from '@dime-gate/interchange/openformula/gate-to-formula'
import { gateToSql } from '@dime-gate/interchange/sql/gate-to-sql'

const page = (name: string) => readFileSync(`docs/${name}.md`, 'utf8')
const blocks = (name: string, language: string) => [...page(name).matchAll(new RegExp(`\`\`\`${language}\n([^]*?)\n\`\`\``, 'g'))].map(([, text]) => text!)
const decayBand = gateDocumentSchema.parse(JSON.parse(readFileSync('demo/gates/decay-band.json', 'utf8')))
const library = { conditions: [], gates: [decayBand] }
const TODAY = parseDate('2026-03-02')!

test('the page on SQL shows what the demo becomes', () => expect(blocks('sql', 'sql')).toEqual([gateToSql(library, decayBand.name)]))

test('so does the page on OpenFormula', () => expect(blocks('openformula', '').filter((text) => text.startsWith('='))).toEqual([gateToFormula(library, decayBand.name)]))

test('and the page on DMN', () => {
  const lines = (text: string) => text.split('\n').map((line) => line.trim()).join('\n')
  const written = lines(writeDmn(library))
  const shown = blocks('dmn', 'xml')
  expect(shown).toHaveLength(2)
  for (const part of shown) expect(written).toContain(lines(part))
})

test('the conditionals of the page come in as it says', () => {
  const rows = [...page('conditionals-and-charts').matchAll(/^\| `((?:=IF|CASE|if).*)` \| (.*) \|$/gm)].map(([, text, says]) => [text!, says!])
  const forms = rows.map(([text, says]) => {
    const read = readConditional(text!, text!.startsWith('=') ? 'openformula' : text!.startsWith('CASE') ? 'sql' : 'feel', 'Read', TODAY)
    if ('problem' in read) return [text, read.problem.message]
    const { gate, findings } = read
    const kinds = findings.findings.map(({ kind }) => kind)
    const expected = says!.startsWith('a scale') ? gate.form === 'scale' : gate.form === 'rules' && gate.rules.length === (says!.startsWith('two') ? 2 : 1)
    const found = (!says!.includes('taken by nobody') || kinds.includes('edge hole')) && (!says!.includes('never reached') || kinds.includes('never reached'))
    return [text, expected && found]
  })
  expect(forms).toEqual(rows.map(([text]) => [text, true]))
  expect(rows).toHaveLength(4)
})

test('the thresholds of the page are read', () => {
  const said = [...page('conditionals-and-charts').matchAll(/^\| (`.*) \| (.*) \|$/gm)].map(([, texts, meaning]) => [texts!, meaning!]).filter(([texts]) => !texts!.includes('IF') && !texts!.includes('WHEN') && !texts!.includes('if '))
  const texts = said.flatMap(([texts]) => [...texts!.matchAll(/`([^`]+)`/g)].map(([, text]) => text!))
  expect(texts.length).toBeGreaterThan(10)
  expect(texts.filter((text) => readThreshold(text, 'point') === null)).toEqual([])
})
