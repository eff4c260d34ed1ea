import type { Gate, Input } from '@dime-gate/core/gate/document'
import { findingsOf } from '@dime-gate/core/finding/findings'
import { lowered } from '@dime-gate/core/rule/lower'
import type { Lowered } from '@dime-gate/core/rule/rules'
import { type Figure, median } from './figure'
import { chance, TODAY } from './million'

const RULES = 500
const INPUTS = 8
const MOST = 1000
const ROUNDS = 5

/** Rules of two to four tests over eight inputs, six of them numbers: what a long-grown decision looks like. */
function grownGate(seed: number): Lowered {
  const next = chance(seed)
  const pick = (most: number) => Math.floor(next() * most)
  const inputs = Array.from({ length: INPUTS }, (_, at): Input => ({
    name: `Input ${at}`, type: at < 6 ? 'number' : at === 6 ? 'text' : 'boolean', isSet: false, unit: '', source: { kind: 'given' }, expected: null, precision: { kind: 'as measured' }, tolerance: null, blank: 'hold',
  }))
  const test = (at: number) => {
    if (at === 6) return `Input 6 in ("kind ${pick(12)}", "kind ${pick(12)}")`
    if (at === 7) return next() < 0.5 ? 'Input 7' : 'not(Input 7)'
    const low = pick(90)
    return next() < 0.5 ? `Input ${at} in [${low}..${low + 5 + pick(30)})` : next() < 0.5 ? `Input ${at} >= ${low}` : `Input ${at} < ${low}`
  }
  const rules = Array.from({ length: RULES }, () => {
    const on = [...new Set(Array.from({ length: 2 + pick(3) }, () => pick(INPUTS)))]
    return { condition: on.map(test).join(' and '), entries: [{ is: `label ${pick(12)}` }], note: '' }
  })
  const gate: Gate = { schema: 1, form: 'rules', name: 'Grown', inputs, hitPolicy: 'first', rules, otherwise: [{ is: 'rest' }], outcomes: [{ name: 'Label', type: 'text', labels: [] }] }
  return lowered(gate)
}

export const fiveHundredRules: Figure = {
  name: `findings for ${RULES} rules × ${INPUTS} inputs`,
  reach: 'within 1 s',
  async measure() {
    const gates = [11, 12, 13].map(grownGate)
    findingsOf(gates[0]!, TODAY)
    const each = gates.map((gate) => {
      const times = Array.from({ length: ROUNDS }, () => {
        const start = performance.now()
        findingsOf(gate, TODAY)
        return performance.now() - start
      })
      const { findings, unproven } = findingsOf(gate, TODAY)
      return { time: median(times), found: findings.length, unproven: unproven.length }
    })
    const slowest = Math.max(...each.map(({ time }) => time))
    return { measured: `${Math.round(slowest)} ms, the slowest of three gates (${each.map(({ found, unproven }) => `${found} findings, ${unproven} rules not proven`).join('; ')})`, ok: slowest <= MOST }
  },
}
