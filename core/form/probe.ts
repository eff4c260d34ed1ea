/** A gate asked what it gives at chosen values, whatever its form. */
import { tableDecider } from '../bulk/decide-table'
import { givenTable } from '../bulk/given-table'
import type { Entry, Gate, Input } from '../gate/document'
import { entriesOf } from '../gate/entries'
import { lower } from '../rule/lower'
import { isOfOneRule, type Lowered, NONE, type Status } from '../rule/rules'
import { type DateValue, isList, type Value } from '../value/value'
import { textOfValue } from '../value/value-text'
import type { Got } from './form-change'

/** Values by input; those of inputs that are not there are blank. */
export type Sample = ReadonlyMap<string, Value>

/** @property entries null where nothing is given. @property rule its place in the document's order, or NONE */
export interface Answer {
  entries: Entry[] | null
  got: Got
  rule: number
}

export interface Probe {
  lowered: Lowered
  /** What it gives each of the samples. */
  all(samples: readonly Sample[]): Answer[]
  at(sample: Sample): Answer
}

const ANY_DAY: DateValue = { kind: 'date', day: 0 }

/** @param today where the gate asks for it @returns null where the gate cannot decide, or what a record gets comes of several rules */
export function probeOf(gate: Gate, today: DateValue = ANY_DAY): Probe | null {
  // Tests see a value as it was rounded, so between rounded values there is nothing else to ask; and a figure is asked as if it were given.
  const inputs = gate.inputs.map((input): Input => ({ ...input, source: { kind: 'given' }, precision: { kind: 'as measured' } }))
  const lowering = lower({ ...gate, inputs })
  if ('problems' in lowering || !isOfOneRule(lowering.lowered)) return null
  const { lowered } = lowering
  const entries = entriesOf(gate)
  const answerOf = (status: Status, rule: number): Answer => {
    const given = status === 'labelled' ? entries[rule]! : status === 'otherwise' ? gate.otherwise! : null
    // A rule that gives nothing is as good as none.
    const isNothing = given === null || given.every((entry) => entry === null)
    return { entries: isNothing ? null : given, got: isNothing ? { status: status === 'held' || status === 'contested' ? status : 'unplaced' } : gotOf(given), rule: status === 'labelled' ? rule : NONE }
  }
  const all = (samples: readonly Sample[]): Answer[] => {
    const table = givenTable(inputs, samples.length, ({ name }, at) => cellsOf(samples[at]!.get(name) ?? null))
    const decisions = tableDecider(table, today).decide(lowered)
    return samples.map((_, at) => {
      const { status, rule } = decisions.at(at)
      return answerOf(status, rule)
    })
  }
  return { lowered, all, at: (sample) => all([sample])[0]! }
}

/** Of a set as many as there are. */
const cellsOf = (value: Value): (string | null)[] => (isList(value) ? value.map(cellOf) : [cellOf(value)])
const cellOf = (value: Value) => (value === null ? null : textOfValue(value))

function gotOf([entry]: readonly Entry[]): Got {
  return entry ? { label: 'is' in entry ? entry.is : entry.feel } : { status: 'unplaced' }
}

/** Whether two answers are one and the same to whoever has the record. */
export function areSameAnswers(a: Answer, b: Answer): boolean {
  return JSON.stringify([a.entries, a.got]) === JSON.stringify([b.entries, b.got])
}
