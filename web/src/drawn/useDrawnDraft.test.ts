import type { Drawn } from '@dime-gate/contract/drawn'
import type { DrawnPreview } from '@dime-gate/contract/drawn-preview'
import { type Column, plainColumn } from '@dime-gate/contract/table'
import { effectScope, nextTick, ref, shallowRef } from 'vue'
import type { World } from './drawn-sentence'
import { useDrawnDraft } from './useDrawnDraft'

const TREES = { id: 1, name: 'Trees', columns: [plainColumn(1, 'Tree no', { type: 'text', isIdentity: true }), plainColumn(2, 'Reports')] }
const REPORTS = {
  id: 2,
  name: 'Reports',
  columns: [plainColumn(12, 'Tree no', { type: 'text' }), plainColumn(13, 'Severity', { unit: 'points' })],
}
const FOUND = { computed: 1 } as DrawnPreview
const begun: Drawn = { kind: 'related', table: 2, keys: [], take: 'count', of: null, where: null, none: 'nothing' }
const soon = async () => {
  await nextTick()
  await new Promise((resolve) => setTimeout(resolve, 0))
}

function draft({ column = null as Column | null, start = begun, isKnown = true, answers = [] as (() => Promise<DrawnPreview>)[] } = {}) {
  const world = shallowRef<World>({
    table: TREES,
    own: column?.id ?? null,
    tables: [TREES, REPORTS],
    gates: [],
    outcomes: new Map(),
    other: (id) => (id === 1 ? TREES : isKnown ? REPORTS : null),
  })
  const [asked, wanted]: [Drawn[], number[]] = [[], []]
  const record = ref<number | null>(5)
  const made = effectScope().run(() =>
    useDrawnDraft({
      world,
      column,
      begun: start,
      record,
      wantTable: (id) => wanted.push(id),
      preview: async (one) => {
        asked.push(one)
        return (await answers.shift()?.()) ?? FOUND
      },
    }),
  )!
  return { ...made, asked, wanted, record, arrive: () => (world.value = { ...world.value, other: (id) => (id === 1 ? TREES : REPORTS) }) }
}

test('it is proposed by which records meet as soon as the other table is here, and only then asked what would come of it', async () => {
  const { drawn, asked, wanted, arrive, isKeepable, shown } = draft({ isKnown: false })
  await soon()
  expect([wanted, asked, isKeepable.value]).toEqual([[2], [], false])
  arrive()
  await soon()
  expect(drawn.value).toMatchObject({ keys: [{ own: 1, theirs: 12, part: 'whole' }] })
  expect([asked.length, shown.value, isKeepable.value]).toEqual([1, FOUND, true])
})

test('a name that is free and a unit follow the sentence, until somebody says others', async () => {
  const { name, unit, drawn, take, request } = draft()
  await soon()
  expect([name.value, unit.value]).toEqual(['Reports 2', ''])
  take({ ...drawn.value, take: 'max', of: 13 } as Drawn)
  await soon()
  expect(unit.value).toBe('points')
  name.value = 'Worst'
  unit.value = ''
  take({ ...drawn.value, take: 'min', of: 13 } as Drawn)
  await soon()
  expect(request()).toMatchObject({ kind: 'add drawn', name: 'Worst', unit: '', drawn: { take: 'min' } })
})

test('an older answer does not overtake a newer one, and a refusal is told', async () => {
  let late: (found: DrawnPreview) => void = () => undefined
  const { take, drawn, shown, trouble, isKeepable } = draft({
    answers: [
      () => new Promise((resolve) => (late = resolve)),
      () => Promise.resolve({ computed: 2 } as DrawnPreview),
      () => Promise.reject(new Error('No such name.')),
    ],
  })
  await soon()
  take({ ...drawn.value, where: 'Severity > 1' } as Drawn)
  await soon()
  late({ computed: 1 } as DrawnPreview)
  await soon()
  expect(shown.value).toEqual({ computed: 2 })
  take({ ...drawn.value, where: 'Severty > 1' } as Drawn)
  await soon()
  expect([shown.value, trouble.value, isKeepable.value]).toEqual([null, 'No such name.', false])
})

test('each row has a calculation of its own, told in its own unit', async () => {
  const { calculate, calculation, where, tell, told, record, drawn, request } = draft({ start: { kind: 'own', calculations: [] } })
  calculate({ table: 2, take: 'count', of: null, where: null })
  where.value = 'Severity > 1'
  tell({ places: 0, unit: 'reports' })
  record.value = 6
  await soon()
  expect([calculation.value, where.value]).toEqual([null, ''])
  calculate({ table: 2, take: 'share', of: null, where: 'Severity > 2' })
  expect(told.value).toMatchObject({ places: null, unit: '%' })
  expect(drawn.value).toMatchObject({
    calculations: [
      { record: 5, where: 'Severity > 1', places: 0, unit: 'reports' },
      { record: 6, take: 'share' },
    ],
  })
  expect(request()).toMatchObject({ kind: 'add drawn', name: 'Value' })
})

test('one that is there already is changed', () => {
  const { request } = draft({ column: plainColumn(2, 'Reports', { drawn: { ...begun, keys: [{ own: 1, theirs: 12, part: 'whole' }] } }) })
  expect(request()).toMatchObject({ kind: 'change drawn', column: 2, name: 'Reports' })
})
