/** Findings while a rule is typed: from the last key until what is found of it is on the page. */
import { gateSchema } from '@dime-gate/contract/gate'
import type { Input, RulesGate } from '@dime-gate/core/gate/document'
import { click, find, openDimeGate } from '../e2e/testing/dime-gate'
import { treesFor } from './bring-in-trees'
import { type Figure, median, quantile } from './figure'

const RULES = 50
const RECORDS = 10_000
const KEYS = 24
const MOST = 150
/** Longer than it takes: nothing is left over for the next key. */
const PAUSE = 1200
const NUMBERS = ['Decay', 'Lean', 'Height', 'Trunk']
const TEXTS = ['Stands by', 'Ward', 'Species', 'Street']
const PLACES = ['school', 'play area', 'footway', 'road', 'verge']

/** Fifty rules, each about two of eight inputs. */
function manySided(): RulesGate {
  const given = (name: string, type: Input['type']): Input => ({ name, type, isSet: false, unit: '', source: { kind: 'given' }, expected: null, precision: { kind: 'as measured' }, tolerance: null, blank: 'hold' })
  const test = (at: number, input: number) => (input < 4 ? `${NUMBERS[input]!} >= ${(at * 7 + input * 13) % 90}` : `${TEXTS[input - 4]!} = "${PLACES[(at + input) % 5]!}"`)
  return {
    schema: 1, form: 'rules', name: 'Many sides', hitPolicy: 'first', otherwise: [{ is: 'd' }],
    inputs: [...NUMBERS.map((name) => given(name, 'number')), ...TEXTS.map((name) => given(name, 'text'))],
    outcomes: [{ name: 'Label', type: 'text', labels: [] }],
    rules: Array.from({ length: RULES }, (_, at) => ({
      condition: `${test(at, at % 8)} and ${test(at, (at * 3 + 1 + (at % 8)) % 8)}`, entries: [{ is: ['a', 'b', 'c'][at % 3]! }], note: '',
    })),
  }
}

export const findingsWhileTyping: Figure = {
  name: `${RULES} rules × 8 inputs in Chromium: a rule typed, from the last key until its findings are on the page, p95`,
  reach: `at most ${MOST} ms`,
  async measure() {
    const gate = await openDimeGate()
    try {
      const table = await (await treesFor(gate.address, RECORDS))('Trees')
      const draft = manySided()
      const inputs = Object.fromEntries(draft.inputs.flatMap(({ name }) => { const column = table.columns.find((one) => one.name === name); return column ? [[name, { column: column.id }]] : [] }))
      const made = await fetch(`${gate.address}/api/v1/gates`, { method: 'POST', body: JSON.stringify({ draft, binding: { tableId: table.id, inputs } }) })
      const { id } = gateSchema.parse(await made.json())
      const page = await gate.newPage(`/gates/${id}`)
      await page.bringToFront()
      await find(page, '.stream')
      await click(page, '[data-rule="0"] [data-part="value 0"]')
      await find(page, '[data-rule="0"] input[data-field="value 0"], [data-rule="0"] [data-field="value 0"] input')
      await new Promise((resolve) => setTimeout(resolve, 2 * PAUSE))
      // What is told of the first rule names its values, so that it is another text after every key.
      await page.evaluate(() => {
        const seen = { key: 0, told: [] as number[], text: '' }
        Object.assign(window, { seen })
        const aside = document.querySelector('aside[aria-label="Beside the gate"]')!
        window.addEventListener('keydown', () => (seen.key = performance.now()), true)
        seen.text = aside.textContent ?? ''
        new MutationObserver(() => {
          const text = [...aside.querySelectorAll('.told, .example')].map((one) => one.textContent).join('\n')
          if (text === seen.text || seen.key === 0) return
          seen.text = text
          seen.told.push(performance.now() - seen.key)
          seen.key = 0
        }).observe(aside, { childList: true, subtree: true, characterData: true })
      })
      for (let key = 0; key < KEYS; key++) {
        await page.keyboard.press(key % 8 < 4 ? 'ArrowUp' : 'ArrowDown')
        await new Promise((resolve) => setTimeout(resolve, PAUSE))
      }
      const told = await page.evaluate(() => (window as unknown as { seen: { told: number[] } }).seen.told)
      const p95 = quantile(told, 0.95)
      return { measured: `${p95.toFixed(0)} ms (median ${median(told).toFixed(0)} ms; ${told.length} of ${KEYS} keys)`, ok: p95 <= MOST && told.length > KEYS / 2 }
    } finally {
      await gate.close()
    }
  },
}
