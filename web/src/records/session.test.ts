import type { Gate, RulesGate } from '@dime-gate/core/gate/document'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { NONE, STATUSES } from '@dime-gate/core/rule/rules'
import type { Cell } from '@dime-gate/core/table/cells'
import { columnOf } from '@dime-gate/core/table/table'
import { anInput, band, rulesGate } from '@dime-gate/core/testing/a-gate'
import type { ValueKind } from '@dime-gate/core/value/value'
import type { ColumnAddress } from './column-address'
import { type Asked, Session } from './session'

const COLUMNS: Record<number, { kind: ValueKind; cells: Cell[] }> = {
  1: { kind: 'number', cells: ['5', '12', null, { unreadable: 'n/a' }, '40', '12.5'] },
  2: { kind: 'text', cells: ['oak', 'ash', 'oak', 'elm', null, 'ash'] },
  3: { kind: 'date', cells: ['2026-03-01', '2026-03-03', '2026-03-02', null, '2026-03-09', '2026-02-01'] },
}
const address = (id: number): ColumnAddress => ({ id, kind: COLUMNS[id]!.kind, path: `/columns/${id}` })

/** A session whose columns are at hand, and which tells which of them were fetched. */
function sessionOn() {
  const fetched: number[] = []
  const session = new Session(async ({ id, kind }, progress) => {
    fetched.push(id)
    const { cells } = COLUMNS[id]!
    progress(cells.length)
    return { records: Int32Array.from(cells, (_, at) => at + 1), column: columnOf(kind, cells) }
  })
  return { session, fetched }
}

const SCALE = plainScale('Decay band', givenNumber('Decay', '%'), [{ at: '12', owner: 'above' }], [band('Sound'), band('Weak')])
const RULES: RulesGate = rulesGate([anInput('Decay', 'number'), anInput('Species', 'text'), anInput('Due', 'date'), anInput('Late', 'number', { source: { kind: 'figure', feel: '(today() - Due).days' } })],
  [['Species = "ash" and Decay > 12', 'fell'], ['Late > 0', 'look']], { otherwise: [{ is: 'leave' }] })
const BOUND = { Decay: { column: 1 }, Species: { column: 2 }, Due: { column: 3 } }
const asked = (gate: Gate, change: Partial<Asked> = {}): Asked => ({ gate, inputs: BOUND, feeding: [], asOf: '2026-03-02', ...change })
const decided = (session: Session, question: Asked) => {
  const answer = session.decide(question)
  if ('problems' in answer) throw new Error(JSON.stringify(answer.problems))
  return answer
}

test('columns are fetched when a gate first needs them, and kept', async () => {
  const { session, fetched } = sessionOn()
  const told: number[] = []
  await session.open([address(1)], (records) => told.push(records))
  expect(decided(session, asked(SCALE)).counts).toMatchObject({ records: 6, caught: [1, 3], held: 2, edges: [{ at: '12', on: 1 }] })
  await session.open([address(1), address(2), address(3)])
  expect(decided(session, asked(RULES)).counts).toMatchObject({ caught: [1, 1], otherwise: 2, held: 2 })
  expect([fetched, told]).toEqual([[1, 2, 3], [6]])
})

test('a gate that is renamed, gets an input, is bound otherwise or asked for another day is decided as what it is now', async () => {
  const { session } = sessionOn()
  await session.open([1, 2, 3].map(address))
  decided(session, asked(SCALE))
  expect(decided(session, asked({ ...SCALE, name: 'Renamed' })).counts.caught).toEqual([1, 3])
  expect(decided(session, asked({ ...RULES, name: 'Renamed' })).counts.caught).toEqual([1, 1])
  expect(decided(session, asked(RULES, { asOf: '2026-02-01' })).counts.caught).toEqual([1, 0])
  expect(decided(session, asked(RULES, { inputs: { Decay: { column: 1 }, Species: { column: 2 } } })).counts).toMatchObject({ caught: [1, 0], held: 5 })
})

test('a gate that cannot decide says why, and the last result stays', async () => {
  const { session } = sessionOn()
  await session.open([address(1)])
  decided(session, asked(SCALE))
  expect(session.decide(asked({ ...SCALE, on: 'Lean' }))).toMatchObject({ problems: [{ code: 'unknown-input' }] })
  expect(session.list({ kind: 'rule', rule: 1 }, null)).toBe(3)
})

test('a list has the records of a tray in their order, with what is the matter', async () => {
  const { session } = sessionOn()
  await session.open([1, 2, 3].map(address))
  decided(session, asked(RULES))
  expect(session.list({ kind: 'all' }, { column: 3, direction: 'falling' })).toBe(6)
  expect(session.window(0, 6).map(({ record }) => record)).toEqual([5, 2, 3, 1, 6, 4])
  expect(session.list({ kind: 'exceptions' }, null)).toBe(4)
  expect(session.window(0, 2)).toEqual([
    { record: 2, status: 'otherwise', rule: NONE, label: 'leave', reasons: [{ kind: 'edge', of: 'Decay', at: '12', side: 'on' }], computed: ['-1'], highlights: [] },
    { record: 3, status: 'otherwise', rule: NONE, label: 'leave', reasons: [{ kind: 'edge', of: 'Late', at: '0', side: 'on' }], computed: ['0'], highlights: [] },
  ])
  expect(session.window(2, 9).map(({ record, status, label }) => [record, status, label])).toEqual([[4, 'held', null], [5, 'held', null]])
})

test('what takes longer is told of the last gate alone', async () => {
  const { session } = sessionOn()
  await session.open([1, 2, 3].map(address))
  const { sequence } = decided(session, asked(SCALE))
  const later = decided(session, asked(RULES))
  expect([session.further(sequence), session.further(later.sequence)]).toMatchObject([null, { alone: [1, 2] }])
})

test('figures have a spread, texts have none', async () => {
  const { session } = sessionOn()
  await session.open([1, 2, 3].map(address))
  decided(session, asked(RULES))
  expect(session.spread('Late')).toMatchObject({ histogram: { bins: expect.anything() }, places: 6 })
  expect(session.spread('Decay')).toMatchObject({ places: 1 })
  expect([session.spread('Species'), session.spread('gone')]).toEqual([null, null])
})

test('what the table gives away comes in words', async () => {
  const { session } = sessionOn()
  expect(session.findings()).toEqual([])
  await session.open([1, 2, 3].map(address))
  decided(session, asked({ ...RULES, rules: [{ condition: 'true', entries: [{ is: 'look' }], note: '' }, { condition: 'Late > 5', entries: [{ is: 'look' }], note: '' }] }))
  expect(session.findings().map(({ words }) => words)).toContain('All records get “look”.')
})

test('a run is shown as it was kept', async () => {
  const { session } = sessionOn()
  await session.open([address(1)])
  const kept = { records: Int32Array.of(1, 2, 3, 4, 5, 6), status: Uint8Array.of(0, 0, 0, 0, 0, STATUSES.indexOf('unplaced')), rule: Int32Array.of(0, 0, 0, 0, 0, NONE) }
  expect(session.show(asked(SCALE), kept)).toMatchObject({ counts: { caught: [5, 0], unplaced: 1, edges: [{ on: 1 }] } })
  session.list({ kind: 'label', label: 'Sound' }, null)
  expect(session.window(4, 5)).toMatchObject([{ record: 5, label: 'Sound' }])
})

test('a first scale is made of the values that are here', async () => {
  const { session } = sessionOn()
  await session.open([address(1)])
  expect(session.firstScale('New', givenNumber('Decay', '%'), 1).cuts.length).toBeGreaterThan(0)
})

test('of some records alone those of the tray are listed, in their order, or sorted; such as are not here are left out', async () => {
  const { session } = sessionOn()
  await session.open([1, 2, 3].map(address))
  decided(session, asked(RULES))
  const listed = () => session.window(0, 9).map(({ record }) => record)
  expect([session.list({ kind: 'all' }, null, Int32Array.from([5, 99, 2, 1])), listed()]).toEqual([3, [5, 2, 1]])
  const all = session.list({ kind: 'otherwise' }, null)
  const [first, second] = listed()
  expect([all, session.list({ kind: 'otherwise' }, null, Int32Array.from([second!, first!])), listed()]).toEqual([2, 2, [second, first]])
  expect([session.list({ kind: 'all' }, { column: 3, direction: 'rising' }, Int32Array.from([5, 6, 1])), listed()]).toEqual([3, [6, 1, 5]])
  expect([session.list({ kind: 'all' }, null, new Int32Array()), listed()]).toEqual([0, []])
})

test('the records nearest to mending a count are listed, the nearest first', async () => {
  const { session } = sessionOn()
  await session.open([address(1)])
  decided(session, asked(SCALE))
  const near = (isLosing: boolean, most: number, within: Int32Array | null = null) => {
    const total = session.list({ kind: 'nearest', label: 'Weak', isLosing, most }, null, within)
    const listed = session.window(0, 10).map(({ record }) => record)
    expect(total).toBe(listed.length)
    return listed
  }
  expect([near(true, 2), near(false, 5), near(true, 2, Int32Array.from([6, 1]))]).toEqual([[2, 6], [1], [6]])
})

const pointed = (name: string, condition: string) => ({ name, condition, colour: '#8e3424', mark: 'star', on: null, isException: false }) as const

test('what is pointed out is counted, listed, and told of each record; another list, or another result, is told anew', async () => {
  const { session } = sessionOn()
  await session.open([1, 2, 3].map(address))
  const records = async (...tried: Parameters<Session['toldHighlights']>) => (await session.toldHighlights(...tried))?.records
  expect(await records()).toBeUndefined()
  decided(session, asked(SCALE))
  await session.highlight([pointed('weak', 'Label = "Weak"'), pointed('near', 'Decay from a cut <= 0.5'), pointed('gone', 'Lean > 3')])
  expect(await records()).toEqual([3, 2, null])
  expect(session.list({ kind: 'highlighted', name: 'near' }, null)).toBe(2)
  expect(session.window(0, 9).map(({ record, highlights }) => [record, highlights])).toEqual([[2, [0, 1]], [6, [0, 1]]])
  // What is tried is counted, and points out nobody.
  expect(await records([pointed('tried', 'Status = "held"')])).toEqual([2])
  expect(session.list({ kind: 'highlighted', name: 'tried' }, null)).toBe(0)
  await session.highlight([pointed('near', 'Decay from a cut <= 8')])
  expect(session.list({ kind: 'highlighted', name: 'near' }, null)).toBe(3)
  decided(session, asked({ ...SCALE, cuts: [{ at: '40', owner: 'above' }] }))
  expect(await records()).toEqual([1])
})

test('columns that the gate does not look at are fetched once they are pointed out by, and no others', async () => {
  const { session, fetched } = sessionOn()
  await session.open([address(1)])
  await session.beside({ bound: [1], columns: [{ ...address(1), name: 'Decay', type: 'percent', unit: '' }, { ...address(2), name: 'Species', type: 'text', unit: '' }, { ...address(3), name: 'Due', type: 'date', unit: '' }] })
  // Before anything is decided nothing can be pointed out.
  await session.highlight([pointed('ash', 'Species = "ash"'), pointed('weak', 'Label = "Weak"')])
  decided(session, asked(SCALE))
  expect(fetched).toEqual([1])
  expect(session.list({ kind: 'highlighted', name: 'ash' }, null)).toBe(0)
  const ash = COLUMNS[2]!.cells.filter((cell) => cell === 'ash').length
  expect(await session.toldHighlights()).toMatchObject({ records: [ash, 3], others: [{ id: 2, name: 'Species' }, { id: 3, name: 'Due' }], isMore: true })
  expect(await session.toldHighlights()).toMatchObject({ records: [ash, 3], isMore: false })
  expect(fetched).toEqual([1, 2])
  // What is listed by it already is listed anew.
  expect(session.window(0, 9).map(({ highlights }) => highlights.includes(0))).toEqual(Array.from({ length: ash }, () => true))
  expect((await session.highlightChoices('Due'))?.distinct).toBeGreaterThan(0)
  expect(fetched).toEqual([1, 2, 3])
  // The values have changed: all that are here are fetched anew.
  await session.refresh([address(1)])
  decided(session, asked(SCALE))
  expect(fetched.slice(3).sort()).toEqual([1, 2, 3])
  expect(await session.toldHighlights()).toMatchObject({ records: [ash, 3], isMore: false })
})

test('where all that has changed is known, it goes in its place and nothing is fetched again', async () => {
  const { session, fetched } = sessionOn()
  await session.open([1, 2].map(address))
  expect(decided(session, asked(SCALE)).counts).toMatchObject({ caught: [1, 3], held: 2 })
  const changed = { records: [6, 3], cells: new Map<number, Cell[]>([[1, ['2', '13']], [2, [null, 'yew']]]) }
  await session.refresh([1, 2].map(address), changed)
  expect(decided(session, asked(SCALE)).counts).toMatchObject({ caught: [2, 3], held: 1 })
  expect(session.choices('Species')).toBeNull()
  expect(decided(session, asked(RULES, { inputs: { Decay: { column: 1 }, Species: { column: 2 } } })).counts.records).toBe(6)
  expect(session.choices('Species')!.values.map(({ text, records }) => [text, records])).toEqual([['ash', 1], ['elm', 1], ['oak', 1], ['yew', 1]])
  expect(fetched).toEqual([1, 2])
  // A record that is not here came after them: then they are fetched.
  await session.refresh([1, 2].map(address), { ...changed, records: [6, 7] })
  expect(fetched).toEqual([1, 2, 1, 2])
})
