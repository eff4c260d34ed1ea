import { band } from '@dime-gate/core/testing/a-gate'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { numberColumn } from '@dime-gate/core/table/number-column'
import { effectScope, nextTick, ref, type Ref } from 'vue'
import type { ColumnAddress } from './column-address'
import { type Asked, Session } from './session'
import { useResult } from './useResult'

const cutAt = (at: string, column = 1): Asked => ({
  gate: plainScale('Decay band', givenNumber('Decay', '%'), [{ at, owner: 'above' }], [band('Sound'), band('Weak')]), inputs: { Decay: { column } }, feeding: [], asOf: '2026-03-02',
})
const addressOf = (id: number): ColumnAddress => ({ id, kind: 'number', path: '' })
const CELLS: Record<number, string[]> = { 1: ['5', '12', '40'], 2: ['1', '2', '3'] }
const settled = () => new Promise((resolve) => setTimeout(resolve, 20))

/** A real session, called as the worker's is: every answer takes its time. */
function set(asked: Ref<Asked | null>, fails: () => boolean = () => false, come: () => Promise<void> = () => nextTick()) {
  const decided: string[] = []
  const session = new Session(async ({ id }) => {
    const cells = CELLS[id]!
    await come()
    if (fails()) throw new Error('The records could not be fetched. Try again.')
    return { records: Int32Array.from(cells, (_, at) => at + 1), column: numberColumn(cells) }
  })
  const remote = {
    open: (...args: Parameters<Session['open']>) => session.open(args[0]),
    decide: async (question: Asked) => {
      decided.push(question.gate.form === 'scale' ? question.gate.cuts[0]!.at : '')
      await nextTick()
      return session.decide(question)
    },
    further: async (sequence: number) => session.further(sequence),
    refresh: (...args: Parameters<Session['refresh']>) => session.refresh(...args),
  }
  const scope = effectScope()
  const result = scope.run(() => useResult(remote as never, asked, addressOf))!
  return { ...result, result: result.decided, decided, stop: () => scope.stop() }
}

test('counts follow the gate, and what was overtaken on the way is not decided', async () => {
  const asked = ref<Asked | null>(null)
  const { decided: answer, tick, decided, stop } = set(asked as Ref<Asked | null>)
  expect([answer, tick.value]).toEqual([[], 0])
  for (const at of ['1', '2', '3', '13']) asked.value = cutAt(at)
  await settled()
  expect(decided.at(-1)).toBe('13')
  expect(decided.length).toBeLessThan(4)
  stop()
})

test('the last gate counts, also where its column is another one', async () => {
  const asked = ref<Asked | null>(cutAt('12'))
  const { decided, tick, fetched, stop } = set(asked as Ref<Asked | null>)
  await settled()
  expect([tick.value, fetched.value]).toEqual([1, null])
  asked.value = cutAt('2', 2)
  expect(tick.value).toBe(0)
  await settled()
  expect([decided.at(-1), tick.value]).toEqual(['2', 1])
  stop()
})

test('what takes longer is asked for once things come to rest', async () => {
  const asked = ref<Asked | null>(cutAt('12'))
  const { further, stop } = set(asked as Ref<Asked | null>)
  await settled()
  expect(further.value).toBeNull()
  await new Promise((resolve) => setTimeout(resolve, 220))
  expect(further.value).toMatchObject({ exceptions: 1, onEdge: 1 })
  stop()
})

test('a gate that cannot decide is told, and so is a column that cannot be had; both can be tried again', async () => {
  const asked = ref<Asked | null>({ ...cutAt('12'), gate: { ...cutAt('12').gate, on: 'Lean' } as Asked['gate'] })
  let isDown = false
  const { problems, trouble, tick, stop } = set(asked as Ref<Asked | null>, () => isDown)
  await settled()
  expect(problems.value).toMatchObject([{ code: 'unknown-input' }])
  asked.value = cutAt('12')
  await settled()
  expect([problems.value, tick.value]).toEqual([[], 1])
  isDown = true
  asked.value = cutAt('2', 2)
  await settled()
  expect(trouble.value).toMatch(/could not be fetched/)
  isDown = false
  asked.value = cutAt('2', 2)
  await settled()
  expect([trouble.value, tick.value]).toEqual(['', 1])
  stop()
})

test('values that change while they are on their way are fetched again', async () => {
  const were = CELLS[1]!
  let release = (): void => undefined
  const held = new Promise<void>((resolve) => (release = resolve))
  const { result, refresh, stop } = set(ref<Asked | null>(cutAt('12')) as Ref<Asked | null>, () => false, () => held)
  await nextTick()
  CELLS[1] = ['50', '50', '50']
  await refresh()
  release()
  await settled()
  CELLS[1] = were
  expect(result.value?.counts.caught).toEqual([0, 3])
  stop()
})
