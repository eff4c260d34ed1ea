import { type Column, plainColumn, type Table } from '@dime-gate/contract/table'
import { effectScope, nextTick, ref, shallowRef } from 'vue'
import type { FigureAsked, Previewed } from './preview'
import { useFigureDraft } from './useFigureDraft'

const column = plainColumn
const COLUMNS = [
  column(1, 'Trainee', { type: 'text' }),
  column(2, 'Module 1', { fullMarks: '5' }),
  column(3, 'Module 2', { fullMarks: '5' }),
  column(4, 'Height', { unit: 'm' }),
  column(5, 'Trunk', { unit: 'cm' }),
]
const FINE = { kind: 'number', computed: 1, of: 1, spread: null, common: [], nothing: [], working: null } as Previewed

function draft({
  figure = null as Column | null,
  columns = COLUMNS,
  sets = [] as Table['sets'],
  answers = [] as (() => Promise<Previewed>)[],
} = {}) {
  const asked: FigureAsked[] = []
  const table = shallowRef({ id: 1, version: 1, columns, sets } as unknown as Table)
  const scope = effectScope()
  const made = scope.run(() =>
    useFigureDraft({
      table,
      figure,
      asOf: ref('2026-03-02'),
      record: ref(null),
      preview: async (one) => {
        asked.push(one)
        return (await answers.shift()?.()) ?? FINE
      },
    }),
  )!
  return { ...made, asked, table, leave: () => scope.stop() }
}
const soon = async () => {
  await nextTick()
  await new Promise((resolve) => setTimeout(resolve, 0))
}

test('a sentence that is begun gives name, unit and expression, and makes a set of what is named alike', async () => {
  const { begin, offers, name, unit, feel, sets, requests, isKeepable } = draft()
  begin(offers.value[0]!.part)
  await soon()
  expect([name.value, unit.value, feel.value]).toEqual(['Mean of modules', 'of 5', 'mean(Modules)'])
  expect(sets.value).toEqual([{ name: 'Modules', by: { kind: 'names', like: 'Module *' } }])
  expect(isKeepable.value).toBe(true)
  expect(requests()).toEqual([
    { kind: 'column sets', sets: [{ name: 'Modules', by: { kind: 'names', like: 'Module *' } }] },
    { kind: 'add figure', name: 'Mean of modules', unit: 'of 5', feel: 'mean(Modules)' },
  ])
})

test('the unit follows the sentence until somebody says another', async () => {
  const { feel, unit, units, setUnit } = draft()
  feel.value = 'Height / Trunk'
  await soon()
  // Lengths cancel each other, but for the number of centimetres in a metre: that is told.
  expect([unit.value, units.value.troubles.map(({ converted }) => converted)]).toEqual(['', ['Height / (Trunk / 100)']])
  feel.value = 'Height * Height'
  await soon()
  expect(unit.value).toBe('m²')
  setUnit('squares')
  feel.value = 'Height / Trunk'
  await soon()
  expect(unit.value).toBe('squares')
})

test('an expression that a sentence can say is shown as one, and any other as what it is', async () => {
  const { feel, sentence, recipe } = draft()
  feel.value = 'Height - Trunk'
  expect(recipe.value).toEqual({ part: { kind: 'difference', of: 'Height', less: 'Trunk' }, rounding: null })
  expect(sentence.value!.length).toBeGreaterThan(2)
  feel.value = 'Height - Trunk - 1'
  expect(sentence.value).toBeNull()
})

test('the last thing that was written is the one that is shown', async () => {
  let answerFirst: (value: Previewed) => void = () => undefined
  const slow = () => new Promise<Previewed>((resolve) => (answerFirst = resolve))
  const wrong: Previewed = { trouble: { words: 'no', from: 0, to: 1 } }
  const { feel, shown, isKeepable, name } = draft({ answers: [slow, async () => wrong] })
  name.value = 'F'
  feel.value = 'Height'
  await soon()
  feel.value = 'Heigh'
  await soon()
  expect(shown.value).toBe(wrong)
  answerFirst(FINE)
  await soon()
  expect([shown.value, isKeepable.value]).toEqual([wrong, false])
})

test('one that is there is changed under its own name, and does not name itself', async () => {
  const mean = column(9, 'Mean', { feel: 'mean(Modules)', unit: 'of 5' })
  const sets: Table['sets'] = [{ name: 'Modules', by: { kind: 'names', like: 'Module *' } }]
  const { asked, names, feel, unit, requests } = draft({ figure: mean, columns: [...COLUMNS, mean], sets })
  await soon()
  expect(asked[0]).toMatchObject({ name: 'Mean', sets })
  expect(names.value.map(({ name }) => name)).not.toContain('Mean')
  feel.value = 'sum(Modules)'
  await soon()
  // What somebody once said of the unit stays.
  expect(unit.value).toBe('of 5')
  expect(requests()).toEqual([{ kind: 'change figure', column: 9, name: 'Mean', unit: 'of 5', feel: 'sum(Modules)' }])
})

test('a name that is taken gets a number', async () => {
  const { begin, offers, name } = draft({ columns: [...COLUMNS, column(8, 'Mean of modules')] })
  begin(offers.value[0]!.part)
  expect(name.value).toBe('Mean of modules 2')
})

test('nothing is asked of an empty expression', async () => {
  const { asked, feel, shown } = draft()
  await soon()
  feel.value = '  '
  await soon()
  expect([asked.length, shown.value]).toEqual([0, null])
})
