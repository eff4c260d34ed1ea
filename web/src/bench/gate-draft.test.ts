import type { Binding } from '@dime-gate/contract/binding'
import type { Gate } from '@dime-gate/contract/gate'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { anInput, band, rulesGate } from '@dime-gate/core/testing/a-gate'
import { effectScope } from 'vue'
import { useGateDraft } from './gate-draft'

const SCALE = plainScale('Decay band', givenNumber('Decay', '%'), [{ at: '12', owner: 'above' }], [band('Sound'), band('Weak')])
const RULES = rulesGate(
  [anInput('Band', 'text', { source: { kind: 'gate', gate: 'Decay band', outcome: null } })],
  [['Band = "Weak"', 'fell']],
)

/** What is stored, and every change that was asked for; it is refused as stale where `refuses` says so. */
function stored(draft: Gate['draft'], refuses: () => boolean = () => false) {
  const gate: Gate = { id: 1, draft, draftVersion: 1, latestVersion: 1, latest: draft }
  const binding: Binding = { gateId: 1, tableId: 2, tableName: 'Trees', version: 1, inputs: {} }
  const feeding = { gateId: 7, version: 3, binding: 2, gate: SCALE, inputs: { Decay: { column: 5 } } }
  const changes: [string, string, unknown][] = []
  const answer = (status: number, body: unknown) => ({ ok: status < 400, status, json: async () => body })
  globalThis.fetch = (async (path: string, { method = 'GET', body = '' }: { method?: string; body?: string } = {}) => {
    const place = path.replace('/api/v1', '')
    if (method === 'GET') return answer(200, place.includes('/feeding/') ? [feeding] : place.includes('/bindings/') ? binding : gate)
    const asked = JSON.parse(body) as { draft?: Gate['draft']; inputs?: Binding['inputs'] }
    changes.push([method, place, asked])
    if (refuses()) return answer(409, { code: 'stale', message: 'changed elsewhere' })
    if (asked.draft) Object.assign(gate, { draft: asked.draft, draftVersion: gate.draftVersion + 1 })
    if (asked.inputs) Object.assign(binding, { inputs: asked.inputs, version: binding.version + 1 })
    return place.includes('/bindings/') ? answer(200, { ...binding }) : answer(200, { ...gate })
  }) as never
  const scope = effectScope()
  return { gate, binding, feeding, changes, draft: scope.run(() => useGateDraft(1))!, stop: () => scope.stop() }
}

test('a change is kept with the version that it saw; one that is taken back is kept as well', async () => {
  const { draft, changes, stop } = stored(SCALE)
  await draft.open(2)
  expect([draft.isNew, draft.feeding]).toEqual([false, []])
  draft.change({ gate: { ...SCALE, name: 'Other' } })
  expect([draft.isNew, draft.keeping.state]).toEqual([true, 'keeping'])
  await draft.keep()
  draft.undo()
  await draft.keep()
  expect(changes).toEqual([
    ['PUT', '/gates/1/draft', { draft: { ...SCALE, name: 'Other' }, seen: 1 }],
    ['PUT', '/gates/1/draft', { draft: SCALE, seen: 2 }],
  ])
  expect([draft.keeping.state, draft.isNew]).toEqual(['kept', false])
  stop()
})

test('what stands for an input is kept by itself', async () => {
  const { draft, changes, stop } = stored(SCALE)
  await draft.open(2)
  draft.change({ inputs: { Decay: { column: 9 } } })
  await draft.keep()
  expect(changes).toEqual([['PUT', '/gates/1/bindings/2', { inputs: { Decay: { column: 9 } }, seen: 1 }]])
  stop()
})

test('a run says which gates feed it as the page saw them; what moved since is told, and seen once it is taken', async () => {
  let isStale = true
  const { draft, feeding, changes, stop } = stored(RULES, () => isStale)
  await draft.open(2)
  expect(await draft.keepRun(null)).toBeNull()
  expect(changes.at(-1)).toEqual([
    'POST',
    '/runs',
    { gateId: 1, version: 1, tableId: 2, binding: 1, feeding: [{ gateId: 7, version: 3, binding: 2 }] },
  ])
  expect(draft.keeping).toEqual({ state: 'stale', message: 'changed elsewhere' })
  feeding.version = 4
  isStale = false
  await draft.settle('theirs')
  expect([draft.keeping.state, draft.feeding.map(({ version }) => version)]).toEqual(['kept', [4]])
  stop()
})

test('two changes to one draft: either can be taken', async () => {
  let isStale = true
  const { draft, gate, changes, stop } = stored(SCALE, () => isStale)
  await draft.open(2)
  draft.change({ gate: { ...SCALE, name: 'Mine' } })
  await draft.keep()
  expect(draft.keeping.state).toBe('stale')
  Object.assign(gate, { draft: { ...SCALE, name: 'Theirs' }, draftVersion: 5 })
  isStale = false
  await draft.settle('mine')
  expect([changes.at(-1), gate.draft.name]).toEqual([['PUT', '/gates/1/draft', { draft: { ...SCALE, name: 'Mine' }, seen: 5 }], 'Mine'])
  stop()
})
