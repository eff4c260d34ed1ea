import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { effectScope, nextTick, ref, shallowRef } from 'vue'
import { Analysis, type Analysed, type ToldFinding } from './told-findings'
import { useFindings } from './useFindings'

const GATE = rulesGate(
  [anInput('Decay', 'number')],
  [
    ['Decay > 40', 'Fell'],
    ['Decay > 50', 'Climb'],
  ],
)
const asked = (name: string): Analysed => ({ gate: { ...GATE, name }, feeding: [], asOf: '2026-03-02' })
const NEAR: ToldFinding = { severity: 'warning', words: 'near', example: '', rules: [], where: '', key: 'near' }
/** Longer than the looks of a test take. */
const settle = () => new Promise((resolve) => setTimeout(resolve, 60))

function looked() {
  const analysis = new Analysis()
  const seen: string[] = []
  const gate = shallowRef<Analysed | null>(asked('first'))
  const tick = ref(0)
  const found = effectScope().run(() =>
    useFindings(
      {
        findings: async (one: Analysed) => {
          seen.push(one.gate.name)
          await new Promise((resolve) => setTimeout(resolve, 15))
          return analysis.findings(one)
        },
        fix: async (at: number) => analysis.fix(at),
      } as never,
      gate,
      async () => [NEAR],
      tick,
    ),
  )!
  return { ...found, seen, gate, tick }
}

test('while one gate is looked at, later ones replace each other', async () => {
  const { seen, gate, findings } = looked()
  gate.value = asked('second')
  await nextTick()
  gate.value = asked('third')
  while (findings.value === null) await settle()
  expect(seen).toEqual(['first', 'third'])
  expect(findings.value!.told.map(({ words }) => words)).toContainEqual(expect.stringMatching(/^Rule 2 is never reached/))
})

test('what the table gives away comes behind, and has no step that mends it', async () => {
  const { findings, fix, tick, gate } = looked()
  tick.value = 1
  await settle()
  const { told } = findings.value!
  expect(told.at(-1)).toBe(NEAR)
  expect(await fix(told.length - 1)).toBeNull()
  const at = told.findIndex(({ words }) => words.startsWith('Rule 2 is never reached'))
  expect((await fix(at))!.words).not.toBe('')
  // Of another gate than was looked at nothing is mended.
  gate.value = asked('second')
  expect(await fix(at)).toBeNull()
})

test('findings that take long leave room for the counts while the gate goes on changing', async () => {
  const began: number[] = []
  const gate = shallowRef<Analysed | null>(asked('first'))
  effectScope().run(() => useFindings({
    findings: async () => {
      began.push(performance.now())
      await new Promise((resolve) => setTimeout(resolve, 160))
      return null
    },
    fix: async () => null,
  } as never, gate, async () => [], ref(0)))
  await nextTick()
  gate.value = asked('second')
  while (began.length < 2) await settle()
  // It rests for as long as it took beyond what it may take.
  expect(began[1]! - began[0]!).toBeGreaterThan(240)
})
