import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { stringify } from 'csv-stringify/sync'
import { readCell } from '@dime-gate/core/value/read-cell'
import { readyGates } from '@dime-gate/core/bulk/decide-gates'
import { BENCH_GATES } from './bench-gates'
import { DEMO_GATES, gateText } from './gates'
import { STREET_TREE_COLUMNS, streetTrees } from './street-trees'
import { DEMO_TABLES } from './tables'

test.each(DEMO_TABLES)('$name: the committed file is what the generator makes', ({ file, records }) => {
  const written = readFileSync(join('demo', 'tables', file), 'utf8')
  expect(stringify([...records()], { record_delimiter: '\r\n' })).toBe(written)
})

test.each(DEMO_GATES)('$file: the committed gate is the one that is written', ({ file, document }) => {
  expect(readFileSync(join('demo', 'gates', file), 'utf8')).toBe(gateText(document))
  const library = 'gates' in document ? document : { conditions: [], gates: [document] }
  expect(readyGates(library)).toHaveProperty('ready')
})

test('the gates of the benches can decide, each after those that feed it, and every form is among them', () => {
  const gates = BENCH_GATES.map(({ document }) => document)
  gates.forEach((_, at) => expect(readyGates({ conditions: [], gates: gates.slice(0, at + 1) })).toHaveProperty('ready'))
  expect(new Set(gates.map(({ form }) => form)).size).toBe(4)
})

describe('the street trees', () => {
  const trees = [...streetTrees(1240)]
  const column = (name: (typeof STREET_TREE_COLUMNS)[number]) => trees.map((tree) => tree[STREET_TREE_COLUMNS.indexOf(name)]!)
  const decay = column('Decay (%)').map((text) => readCell(text, { type: 'percent', decimalMark: 'point', dateOrder: 'day', fraction: false }))

  test('hold the flaws that they are there to show', () => {
    expect(decay.filter(({ state }) => state === 'unreadable')).toHaveLength(2)
    expect(decay.filter(({ state }) => state === 'blank').length).toBeGreaterThan(15)
    expect(decay.filter((reading) => reading.state === 'readable' && ['12', '25', '40'].includes(reading.value)).length).toBeGreaterThan(3)
    expect(column('Decay (%)')).toContain('140')
    expect(column('Trunk (cm)')).toContain('35 cm')
    expect(column('Species').some((species) => species.endsWith(' '))).toBe(true)
    expect(column('Species').some((species) => /^[a-z]/.test(species))).toBe(true)
    expect(column('Next due').some((due) => due < '2026-03-02')).toBe(true)
  })

  test('begin the same however many are made', () => {
    const [first] = streetTrees(100_000)
    expect(first!.slice(1)).toEqual(trees[0]!.slice(1))
  })
})

describe('the other tables', () => {
  const of = (name: string) => [...DEMO_TABLES.find((one) => one.name === name)!.records()]
  const column = (name: string, head: string) => {
    const [heads, ...records] = of(name)
    return records.map((record) => record[heads!.indexOf(head)]!)
  }

  test('have as many records as they should', () => {
    expect(DEMO_TABLES.map(({ name, records }) => [name, [...records()].length - 1])).toEqual([
      ['Street trees', 1240], ['Climber course', 64], ['Species', 24], ['Resident reports', 930], ['Night course', 41], ['Crews', 38], ['Office indicators', 6],
    ])
  })

  test('name one species too few, and two trees that there are none of', () => {
    const known = new Set(column('Species', 'Species').map((name) => name.toLowerCase()))
    const missing = new Set(column('Street trees', 'Species').map((name) => name.trim().toLowerCase()).filter((name) => !known.has(name)))
    expect([...missing]).toEqual(['holm oak'])
    const trees = new Set(column('Street trees', 'Tree no'))
    expect(column('Resident reports', 'Tree no').filter((tree) => !trees.has(tree))).toEqual(['1271', '1304'])
  })

  test('have one climber who is eleven months and twenty days short of eight years, and marks that are not taken yet', () => {
    expect(column('Crews', 'Started').filter((day) => day === '2018-03-10')).toHaveLength(1)
    expect(column('Night course', 'Mark F (out of 5)').filter((mark) => mark === '').length).toBeGreaterThan(5)
  })
})
