/** Records that are given by their values, decided by gates: whoever asks is answered as a run would be. */
import { type DecideAnswer, type Decided, type DecideRequest, type GivenRecord, type ToldWhy } from '@dime-gate/contract/decide'
import { gatesAsked, givenInputs, type Question } from '@dime-gate/contract/question'
import { decideRecordByGates, type ReadyGate, withFed } from '@dime-gate/core/bulk/decide-gates'
import { decideFacts } from '@dime-gate/core/decide/decide-record'
import { factsOf } from '@dime-gate/core/decide/facts'
import { FALSE, TRUE, type Verdict } from '@dime-gate/core/decide/verdict'
import { type Why, whyOf } from '@dime-gate/core/decide/why'
import { findingsOf } from '@dime-gate/core/finding/findings'
import { findingWords } from '@dime-gate/core/finding/finding-words'
import type { Input } from '@dime-gate/core/gate/document'
import { type Asked, edgesOf } from '@dime-gate/core/result/edges'
import { reasonsOf } from '@dime-gate/core/result/reason'
import { NONE } from '@dime-gate/core/rule/rules'
import type { Cell } from '@dime-gate/core/table/cells'
import { decimalTextOf } from '@dime-gate/core/value/number'
import { readCell } from '@dime-gate/core/value/read-cell'
import { parseDate } from '@dime-gate/core/value/temporal'
import type { DateValue, Value, ValueKind } from '@dime-gate/core/value/value'
import { textOfValue, valueFromText } from '@dime-gate/core/value/value-text'
import { refusals } from '../http/refusal'

/** A gate's version with those that feed it. */
export interface ReadyVersion {
  name: string
  version: number
  feeding: DecideAnswer['feeding']
  inputs: Input[]
  /** The one that is asked comes last. */
  gates: ReadyGate[]
  /** Of the gate that is asked, as they were on a day. */
  edges?: { asOf: string; of: readonly Asked[] }
}

/** @throws Refusal `cannot-decide` */
export function readyVersion(question: Pick<Question, 'gate' | 'feeding'>, version: number, feeding: DecideAnswer['feeding']): ReadyVersion {
  const asked = gatesAsked(question)
  if ('problems' in asked) throw refusals.cannotDecideNow(question.gate.name)
  return { name: question.gate.name, version, feeding, inputs: givenInputs(question), gates: asked.gates }
}

/** @throws Refusal `malformed` where a record gives what is no input */
export function decideGiven(ready: ReadyVersion, { records, why = false, findings = false }: DecideRequest, asOf: string): DecideAnswer {
  const { inputs, name, version, feeding } = ready
  const names = new Set(inputs.map((input) => input.name))
  records.forEach((record, at) => {
    const unknown = Object.keys(record).find((key) => !names.has(key))
    if (unknown !== undefined) throw refusals.noSuchInput(unknown, at, [...names])
  })
  const today = parseDate(asOf)!
  const edges = edgesOn(ready, asOf)
  return { gate: name, version, asOf, feeding, records: records.map((record) => decidedRecord(ready, edges, record, today, why)), ...(findings ? { findings: toldFindings(ready, today) } : {}) }
}

/** By themselves, not as a table: for a few records that is quicker by far. */
function decidedRecord({ gates, inputs }: ReadyVersion, edges: readonly Asked[], record: GivenRecord, today: DateValue, withWhy: boolean): Decided {
  const { values, unreadable } = givenValues(inputs, record)
  const given = (name: string) => values.get(name) ?? null
  const asked = gates.at(-1)!
  const { lowered } = asked
  const seen = withFed(gates, decideRecordByGates(gates.slice(0, -1), (_, name) => given(name), today), asked, given)
  const own = new Map([...unreadable].filter(([name]) => lowered.inputs.has(name)))
  const facts = factsOf(lowered, seen, today)
  const { status, rule, outcomes, missing } = decideFacts(lowered, facts)
  return {
    status, label: textOf(outcomes[0] ?? null), outcomes: Object.fromEntries(lowered.outcomes.map((outcome, place) => [outcome.name, textOf(outcomes[place] ?? null)])),
    rule: rule === NONE ? null : rule + 1, missing, exceptions: reasonsOf(asked, edges, facts, status, own), ...(withWhy ? { why: toldWhy(whyOf(lowered, seen, today, own)) } : {}),
  }
}

/** The edges of a gate hang on the day alone. */
function edgesOn(ready: ReadyVersion, asOf: string): readonly Asked[] {
  const known = ready.edges?.asOf === asOf ? ready.edges : { asOf, of: edgesOf(ready.gates.at(-1)!, parseDate(asOf)!) }
  ready.edges = known
  return known.of
}

function givenValues(inputs: readonly Input[], record: GivenRecord): { values: Map<string, Value>; unreadable: Map<string, string> } {
  const unreadable = new Map<string, string>()
  const values = new Map(inputs.map((input): [string, Value] => {
    const all = cellsOf(input, record[input.name] ?? null).map((cell): Value => {
      if (cell === null || typeof cell === 'string') return cell === null ? null : valueFromText(cell, input.type)
      unreadable.set(input.name, cell.unreadable)
      return null
    })
    return [input.name, input.isSet ? all.filter((value) => value !== null) : (all[0] ?? null)]
  }))
  return { values, unreadable }
}

function cellsOf(input: Input, given: GivenRecord[string]): Cell[] {
  return Array.isArray(given) ? given.map((one) => cellOf(one, input.type)) : [cellOf(given, input.type)]
}

/** A text is read as a file's cell is, with a point before decimals; what does not fit stays as it was given. */
function cellOf(given: string | number | boolean | null, kind: ValueKind): Cell {
  if (given === null) return null
  const text = typeof given === 'number' ? decimalTextOf(given) : String(given)
  if (kind !== 'number' && kind !== 'text' && kind !== 'date' && kind !== 'boolean') return valueFromText(text, kind) === null ? { unreadable: text } : text
  const reading = readCell(text, { type: kind, decimalMark: 'point', dateOrder: 'year', fraction: false })
  if (reading.state === 'blank') return null
  return reading.state === 'readable' ? reading.value : { unreadable: text }
}

const textOf = (value: Value): string | null => (value === null ? null : textOfValue(value))
const verdictOf = (verdict: Verdict) => (verdict === TRUE ? 'true' : verdict === FALSE ? 'false' : 'unknown')

function toldWhy({ inputs, rules }: Why): ToldWhy {
  return {
    inputs: inputs.map(({ name, value, unreadable }) => ({ name, value: textOf(value), unreadable })),
    rules: rules.map(({ rule, verdict, tests }) => ({
      rule: rule + 1, verdict: verdictOf(verdict),
      tests: tests.map((test) => ({
        test: test.text, isNegated: test.isNegated, verdict: verdictOf(test.verdict), saw: textOf(test.saw),
        nearest: test.nearest && { at: textOf(test.nearest.at), distance: textOf(test.nearest.distance) },
      })),
    })),
  }
}

function toldFindings({ gates }: ReadyVersion, today: DateValue): NonNullable<DecideAnswer['findings']> {
  const { lowered } = gates.at(-1)!
  const paths = lowered.rules.map(({ path }) => path)
  return findingsOf(lowered, today).findings.map((finding) => ({
    kind: finding.kind, severity: finding.severity, words: findingWords(finding, paths), rules: finding.rules.map((rule) => rule + 1),
    example: finding.example && Object.fromEntries(Object.entries(finding.example).map(([name, value]) => [name, textOf(value)])),
  }))
}
