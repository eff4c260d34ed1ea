/** Every record of a table decided at once, over bitmaps; equal, record for record, to `decideRecord`. */
import { type Bitmap, countBits, emptyBitmap, fullBitmap, hasBit, placesOf, unionOf, without } from '../table/bitmap'
import { recordAt, type Table } from '../table/table'
import type { DateValue } from '../value/value'
import { type Condition, conditionText, type Test, testsOf } from '../rule/condition'
import { type Decision, decideFacts } from '../decide/decide-record'
import { factsOf } from '../decide/facts'
import { type Decisions, toDecisions, type Walked, walkLadder } from './ladder'
import { type Lowered, NONE, type Status } from '../rule/rules'
import { tableTests } from './table-tests'
import { conditionBits, verdictAt, type VerdictBits } from './verdict-bits'

export interface TableDecider {
  decide(gate: Lowered): Decisions
  /** All of the decision for one record. */
  explain(gate: Lowered, at: number): Decision
  /** The records for which one condition is true, whatever the rules before it take. */
  trueFor(gate: Lowered, condition: Condition): Bitmap
}

/** Bits kept of conditions and tests, so that a change costs what it changed. */
const MOST_KEPT = 32 * 2 ** 20

/** Decides one table by gate after gate; what two gates share is computed once. */
export function tableDecider(table: Table, today: DateValue): TableDecider {
  const kept = new Map<string, VerdictBits>()
  let last: Walked | null = null
  const keep = (key: string, make: () => VerdictBits): VerdictBits => {
    const known = kept.get(key) ?? make()
    // Put last again, so that what nobody asked for lately comes first, and goes first.
    kept.delete(key)
    kept.set(key, known)
    const [oldest] = kept.keys()
    if (kept.size * table.length > MOST_KEPT && kept.size > 128) kept.delete(oldest!)
    return known
  }
  const bitsOf = (gate: Lowered) => {
    const signatures = inputSignatures(gate)
    const key = (text: string, inputs: readonly string[]) => `${text}\n${inputs.map((name) => signatures.get(name) ?? '').join()}`
    const keyOf = (one: Test) => key(one.text, one.inputs)
    const asked = new Map(gate.rules.flatMap(({ condition }) => testsOf(condition)).map((one) => [one.text, one]))
    const tests = tableTests(table, gate, today, [...asked.values()].filter((one) => !kept.has(keyOf(one))))
    const test = (one: Test) => keep(keyOf(one), () => tests(one))
    return (condition: Condition): VerdictBits => {
      if (condition.kind === 'test') return test(condition)
      const inputs = [...gate.inputs.keys()]
      return keep(key(conditionText(condition), inputs), () => conditionBits(condition, table.length, test))
    }
  }
  const ruleBits = new WeakMap<Lowered, VerdictBits[]>()
  const rulesOf = (gate: Lowered): VerdictBits[] => {
    const known = ruleBits.get(gate)
    if (known) return known
    const bits = bitsOf(gate)
    const rules = gate.rules.map(({ condition }) => bits(condition))
    ruleBits.set(gate, rules)
    return rules
  }
  const explain = (gate: Lowered, at: number): Decision => {
    const facts = factsOf(gate, recordAt(table, at), today)
    return decideFacts(gate, facts, rulesOf(gate).map((bits) => verdictAt(bits, at)))
  }
  return {
    explain,
    trueFor(gate, condition) {
      const { t, f, n } = bitsOf(gate)(condition)
      const sure = f ? without(t, f) : t
      return n ? without(sure, n) : sure
    },
    decide(gate) {
      const decide = (at: number) => explain(gate, at)
      if (gate.hitPolicy !== 'first' && gate.hitPolicy !== 'unique' && gate.hitPolicy !== 'any') {
        return settled(nobody(gate, table.length), placesOf(fullBitmap(table.length)), decide)
      }
      const walked = walkLadder(gate, table.length, rulesOf(gate), last)
      last = walked
      const { decisions } = walked
      // Expressions may agree where the ladder took them for different: who is held or contested is asked again.
      return hasExpressions(gate) ? settled(decisions, placesOf(unionOf([decisions.held, decisions.contested], table.length)), decide) : decisions
    },
  }
}

/** What `decideRecord` would say of the record at place `at`, without its outcomes. */
export function decisionAt(decisions: Decisions, at: number): { status: Status; rule: number } {
  for (const status of ['held', 'unplaced', 'otherwise', 'contested'] as const) {
    if (hasBit(decisions[status], at)) return { status, rule: NONE }
  }
  return { status: 'labelled', rule: decisions.caught.findIndex((places) => hasBit(places, at)) }
}

/** What an input's values depend on beside its column, so that a changed precision or figure is a different test. */
function inputSignatures({ inputs }: Lowered): Map<string, string> {
  const signatures = new Map<string, string>()
  for (const [name, input] of inputs) {
    const own = JSON.stringify([input.precision, input.blank === 'pass', input.source])
    // A figure depends on other inputs, which come before it.
    signatures.set(name, input.figure ? own + [...signatures.values()].join() : own)
  }
  return signatures
}

function hasExpressions(gate: Lowered): boolean {
  return [...gate.rules.map(({ entries }) => entries), gate.otherwise ?? []].some((entries) => entries.some((entry) => 'tree' in entry))
}

function nobody(gate: Lowered, length: number): Decisions {
  const rows = Array.from({ length: gate.rules.length + 4 }, () => emptyBitmap(length))
  return toDecisions(length, rows, rows.map(() => 0))
}

/** `decisions` with each of these records put where its own decision says. */
function settled(decisions: Decisions, places: Uint32Array, decide: (at: number) => Decision): Decisions {
  const copy = ({ length, words }: Bitmap): Bitmap => ({ length, words: words.slice() })
  const caught = decisions.caught.map(copy)
  const rest = { otherwise: copy(decisions.otherwise), unplaced: copy(decisions.unplaced), held: copy(decisions.held), contested: copy(decisions.contested) }
  const rows = [...caught, rest.otherwise, rest.unplaced, rest.held, rest.contested]
  for (const at of places) {
    const [word, bit] = [at >>> 5, 1 << (at & 31)]
    for (const { words } of rows) words[word]! &= ~bit
    const { status, rule } = decide(at)
    const to = status === 'labelled' ? caught[rule]! : rest[status]
    to.words[word]! |= bit
  }
  return toDecisions(decisions.length, rows, rows.map(countBits))
}
