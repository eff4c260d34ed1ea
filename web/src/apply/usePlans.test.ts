import type { Binding } from '@dime-gate/contract/binding'
import type { Run } from '@dime-gate/contract/run'
import { plainColumn } from '@dime-gate/contract/table'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { band } from '@dime-gate/core/testing/a-gate'
import { aServer, Refusal } from '../testing/a-server'
import { isReady, usePlans } from './usePlans'

const scale = (name: string, input: string) => plainScale(name, givenNumber(input, ''), [{ at: '1', owner: 'above' }], [band('a'), band('b')])
const table = (id: number, ...columns: string[]) => ({
  id, name: `Table ${id}`, columns: columns.map((name, at) => plainColumn(10 * id + at, name)), sets: [], records: 3, version: 1, standsOn: [], figures: null, rollUp: null, unreadable: 0, fileName: 'trees.csv', importedAt: '2026-03-02T10:00:00Z',
})
const pair = (gateId: number, tableId: number, version = 1) => ({ gateId, gateName: `Gate ${gateId}`, version, tableId })

/** A run that has just begun. */
const RUN: Run = {
  id: 77, number: 1, isDraft: false, name: null, gateId: 2, gateName: 'Gate 2', gateVersion: 1, tableId: 2, tableName: 'Table 2', tableVersion: 1, asOf: '2026-03-02', isAsOfAsked: false, keptAt: '2026-03-02T10:00:00Z',
  state: 'under way', problem: null, progress: 0, isWaiting: false, records: 3, counts: null, labels: [], otherwise: null, gate: scale('Gate 2', 'Lean'), binding: { Lean: { column: 21 } }, feeding: [], seen: [21], columns: [plainColumn(21, 'Lean')],
}

/** A server with two gates, three tables and one binding, which answers as the real one does, and tells what it was asked. */
function gatesAndTables() {
  const asked: string[] = []
  const bindings = new Map<string, Binding>([['1/bindings/1', { gateId: 1, tableId: 1, tableName: 'Table 1', inputs: { Decay: { column: 10 } }, version: 4 }]])
  const answers: Record<string, unknown> = {
    '/tables/1': table(1, 'Decay', 'Lean'), '/tables/2': table(2, 'Rot', 'Lean'), '/tables/3': table(3, 'Height'),
    '/gates/1/versions/1': scale('Gate 1', 'Decay'), '/gates/2/versions/1': scale('Gate 2', 'Lean'),
  }
  aServer(({ method, path, body }) => {
    asked.push(`${method} ${path}`)
    const bound = /^\/gates\/(\d+\/bindings\/\d+)$/.exec(path)?.[1]
    if (bound && method === 'PUT') {
      const { seen, inputs } = body as { seen: number; inputs: Binding['inputs'] }
      if (seen !== (bindings.get(bound)?.version ?? 0)) return new Refusal(409, 'stale', 'It is bound otherwise by now.')
      bindings.set(bound, { gateId: 2, tableId: 2, tableName: 'Table 2', version: seen + 1, inputs })
    }
    if (path === '/runs') return RUN
    return (bound ? bindings.get(bound) : answers[path]) ?? new Refusal(404, 'not-found', 'There is none.')
  })
  return { asked, bindings }
}
const isBound = (gateId: number, tableId: number) => gateId === 1 && tableId === 1

test('those that fit come first; tables and gates are asked for once each, bindings only where there are any', async () => {
  const { asked } = gatesAndTables()
  const { plans, load } = usePlans()
  await load([pair(1, 3), pair(2, 1), pair(1, 1), pair(2, 3), pair(2, 2)], isBound)
  expect(plans.value.map(({ key, fits }) => [key, fits])).toEqual([['2 1', true], ['1 1', true], ['2 2', true], ['1 3', false], ['2 3', false]])
  expect(asked.toSorted()).toEqual(['GET /gates/1/bindings/1', 'GET /gates/1/versions/1', 'GET /gates/2/versions/1', 'GET /tables/1', 'GET /tables/2', 'GET /tables/3'])
  expect(plans.value[1]!.inputs.map(({ how }) => how)).toEqual(['bound'])
})

test('what was chosen for one stays as others come, and makes it ready where it stands', async () => {
  gatesAndTables()
  const { plans, load, stand } = usePlans()
  await load([pair(2, 1), pair(1, 3)], isBound)
  stand(3, plans.value[1]!.inputs[0]!, { column: 30 })
  expect([plans.value[1]!.fits, isReady(plans.value[1]!)]).toEqual([false, true])
  await load([pair(2, 1), pair(1, 3), pair(1, 1)], isBound)
  expect(plans.value.map(({ key }) => key)).toEqual(['2 1', '1 1', '1 3'])
  expect(plans.value[2]!.inputs).toMatchObject([{ how: 'chosen', bound: { column: 30 } }])
})

test('a gate without a version, and one that cannot be had, are told, and the others are planned', async () => {
  gatesAndTables()
  const { plans, load } = usePlans()
  await load([pair(1, 1, 0), pair(1, 1, 7), pair(2, 1)], isBound)
  expect(plans.value.map(({ trouble }) => trouble)).toEqual(['', 'No version of it is set yet. Set one on its bench.', 'There is none.'])
})

test('what is begun is bound first, and remembered; what somebody bound just so meanwhile is not written over', async () => {
  const { asked, bindings } = gatesAndTables()
  const { plans, load, begin } = usePlans()
  await load([pair(2, 2)], isBound)
  expect(await begin(plans.value[0]!)).toMatchObject({ id: 77 })
  expect(asked.at(-1)).toBe('POST /runs')
  expect(bindings.get('2/bindings/2')).toMatchObject({ inputs: { Lean: { column: 21 } }, version: 1 })
  asked.length = 0
  await load([pair(2, 2)], () => false)
  await begin(plans.value[0]!)
  expect(asked.filter((one) => one.startsWith('PUT'))).toEqual([])
})

test('another choice after a run is bound on top of what that bound', async () => {
  const { bindings } = gatesAndTables()
  const { plans, load, stand, begin } = usePlans()
  await load([pair(2, 2)], isBound)
  await begin(plans.value[0]!)
  expect(plans.value[0]!.inputs.map(({ how }) => how)).toEqual(['bound'])
  stand(2, plans.value[0]!.inputs[0]!, { column: 20 })
  await begin(plans.value[0]!)
  expect(bindings.get('2/bindings/2')).toMatchObject({ inputs: { Lean: { column: 20 } }, version: 2 })
})
