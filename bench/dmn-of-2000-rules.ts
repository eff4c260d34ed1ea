import { readDmn, writeDmn } from '@dime-gate/interchange/dmn/dmn'
import { gateDocumentSchema } from '@dime-gate/contract/gate-document'
import type { RulesGate } from '@dime-gate/core/gate/document'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { type Figure, median } from './figure'
import { chance } from './million'

const RULES = 2000
const MOST = 1000
const ROUNDS = 5

/** Rules of three tests over six inputs. */
function longGate(): RulesGate {
  const next = chance(7)
  const pick = (most: number) => Math.floor(next() * most)
  const pairs = Array.from({ length: RULES }, (): [string, string] => {
    const low = pick(90)
    return [`Decay in [${low}..${low + 1 + pick(10)}) and Lean < ${pick(40)} and Species in ("kind ${pick(24)}", "kind ${pick(24)}")${next() < 0.3 ? ` and Height >= ${pick(30)}` : ''}`, `label ${pick(12)}`]
  })
  return rulesGate([anInput('Decay', 'number'), anInput('Lean', 'number'), anInput('Height', 'number'), anInput('Species', 'text')], pairs, { name: 'Long' })
}

export const dmnOf2000Rules: Figure = {
  name: `read and write a DMN file of ${RULES} rules`,
  reach: 'within 1 s, also without the document in it',
  async measure() {
    const library = { conditions: [], gates: [longGate()] }
    const ours = { gate: (data: unknown) => gateDocumentSchema.safeParse(data).data ?? null, conditions: () => null }
    const others = { gate: () => null, conditions: () => null }
    const time = (shapes: typeof ours) => Array.from({ length: ROUNDS }, () => {
      const start = performance.now()
      const { gates } = readDmn(writeDmn(library), shapes)
      if (gates.length !== 1) throw new Error('the gate did not come back')
      return performance.now() - start
    })
    const [own, foreign] = [median(time(ours)), median(time(others))]
    const kilobytes = Math.round(writeDmn(library).length / 1024)
    return { measured: `${Math.round(own)} ms, as a file of others ${Math.round(foreign)} ms (${kilobytes} kB)`, ok: Math.max(own, foreign) <= MOST }
  },
}
