/**
 * Highlights: conditions of one's own over what a gate gave. All of a gate's are the rules of one gate more, which looks at what the first looks at,
 * at its outcomes, at what became of a record, and at how far its values are from the nearest cut; a record gets all those whose rules hold.
 */
import type { ReadyGate } from '../bulk/decide-gates'
import { tableDecider } from '../bulk/decide-table'
import { testVerdict } from '../decide/decide-record'
import { factsOf } from '../decide/facts'
import { TRUE, verdictOf } from '../decide/verdict'
import { nameTrouble } from '../expression/names'
import { printExpression } from '../expression/print'
import { EMPTY_LIBRARY, type Gate, type Input, type RulesGate } from '../gate/document'
import type { Mark } from '../gate/mark'
import { outcomeKind } from '../gate/outcome-kind'
import { type Asked, edgesOf } from '../result/edges'
import type { Result } from '../result/result'
import { literalNode, nameNode } from '../rule/literal'
import { lower } from '../rule/lower'
import { readCondition, typesIn } from '../rule/read-condition'
import { STATUSES } from '../rule/rules'
import { type Bitmap, emptyBitmap } from '../table/bitmap'
import { type CommonValues, commonValues } from '../table/common-values'
import { dictionaryFrom } from '../table/dictionary-column'
import type { NumberColumn } from '../table/number-column'
import { type Column, recordAt } from '../table/table'
import type { DateValue, Value } from '../value/value'
import { textOfValue } from '../value/value-text'

export interface Highlight {
  name: string
  /** FEEL text over what `highlightGate` has for inputs. */
  condition: string
  /** `#rrggbb`. */
  colour: string
  mark: Mark
  /** The input whose value is pointed out; null: the record. */
  on: string | null
  /** Whether records that meet it are exceptions, which somebody should look at. */
  isException: boolean
}

/**
 * The gate that a gate's highlights are the rules of. What other gates give it counts as given; a blank makes no highlight. An outcome
 * whose name conditions cannot use is called *Label*, or by its place.
 * @param gate lowered, for the places at which it cuts
 */
export function highlightGate({ gate, lowered }: ReadyGate, highlights: readonly Highlight[], today: DateValue): RulesGate {
  const taken = new Set(gate.inputs.map(({ name }) => name))
  const added = (name: string, change: Partial<Input>): Input => ({ ...PLAIN, name: freeName(name, taken), ...change })
  const outcomes = gate.outcomes.map((outcome, at) => added(nameTrouble(outcome.name) === null ? outcome.name : at === 0 ? 'Label' : `Outcome ${at + 1}`, { type: outcomeKind(outcome, gate), expected: outcome.labels.length > 0 ? { kind: 'list', values: outcome.labels.map(({ value }) => value) } : null }))
  const status = added('Status', { type: 'text', expected: { kind: 'list', values: [...STATUSES] } })
  const distances = edgesOf({ gate, lowered }, today).flatMap((asked): Input[] => {
    const input = gate.inputs.find(({ name }) => name === asked.of)
    if (input?.type !== 'number' || input.isSet || asked.edges.length === 0) return []
    return [added(`${input.name} from a cut`, { type: 'number', unit: input.unit, source: { kind: 'figure', feel: distanceText(asked) } })]
  })
  return {
    schema: 1, form: 'rules', name: 'Highlights', hitPolicy: 'rule order', otherwise: null,
    inputs: [...gate.inputs.map(passing), ...outcomes, status, ...distances],
    outcomes: [{ name: 'Highlight', type: 'text', labels: [] }],
    rules: highlights.map(({ name, condition }) => ({ condition, entries: [{ is: name }], note: '' })),
  }
}

/** What a gate's highlights come to on one result. */
export interface Highlighted {
  /** By highlight whether it can be read; one that names what the gate has not any more cannot. */
  isRead: boolean[]
  /** By highlight the records that meet it; none for one that cannot be read. */
  places(): Bitmap[]
  /** The highlights that the record at a place meets, in their order: quick for few records. */
  at(place: number): number[]
}

export function highlighted(result: Result, highlights: readonly Highlight[]): Highlighted {
  const { ready: of, on: { table, today } } = result
  const { length } = table
  const gate = highlightGate(of, highlights, today)
  const types = typesIn(gate)
  const isRead = highlights.map(({ condition }) => condition.trim() !== '' && 'condition' in readCondition(condition, types))
  const lowering = lower({ ...gate, rules: gate.rules.filter((_, at) => isRead[at]) }, EMPTY_LIBRARY)
  // A figure of the gate's own may not go with what highlights may ask; then none of them can be read.
  if ('problems' in lowering) return { isRead: isRead.map(() => false), places: () => isRead.map(() => emptyBitmap(length)), at: () => [] }
  const { lowered } = lowering
  const rules = isRead.flatMap((is, at) => (is ? [at] : []))
  return {
    isRead,
    places() {
      // Outcomes of a million records are not made into columns for nobody.
      if (rules.length === 0) return isRead.map(() => emptyBitmap(length))
      const columns = new Map<string, Column | readonly NumberColumn[]>([...table.columns, ...givenColumns(result, gate)])
      const decider = tableDecider({ length, columns }, today)
      const held = lowered.rules.map(({ condition }) => decider.trueFor(lowered, condition))
      return isRead.map((is, at) => (is ? held[rules.indexOf(at)]! : emptyBitmap(length)))
    },
    at(place) {
      const facts = factsOf(lowered, givenAt(result, gate, place), today)
      return rules.filter((_, at) => verdictOf(lowered.rules[at]!.condition, (test) => testVerdict(lowered, test, facts)) === TRUE)
    },
  }
}

/** The values that a highlight can ask for, and how many records have each: also those that the gate could give, and gives nobody. Null where there is no list of them. */
export function highlightChoices(result: Result, name: string, most: number): CommonValues | null {
  const gate = highlightGate(result.ready, [], result.on.today)
  const column = result.on.table.columns.get(name) ?? new Map(givenColumns(result, gate)).get(name)
  if (!column || !('kind' in column) || column.kind !== 'dictionary') return null
  const { values, distinct } = commonValues(column, most)
  const expected = gate.inputs.find((input) => input.name === name)?.expected
  const missing = expected?.kind === 'list' ? expected.values.filter((text) => !values.some((one) => one.text === text)) : []
  return { values: [...values, ...missing.map((text) => ({ text, records: 0 }))], distinct: distinct + missing.length }
}

/** What a highlight can ask of one record. */
function givenAt(result: Result, gate: RulesGate, place: number): (name: string) => Value {
  const { table } = result.on
  const own = result.ready.gate.inputs.length
  const { outcomes } = result.why(place).decision
  const given = recordAt(table, place)
  const added = new Map(gate.inputs.slice(own).map(({ name }, at) => [name, at]))
  return (name) => {
    const at = added.get(name)
    if (at === undefined) return given(name)
    if (at > result.ready.gate.outcomes.length) return null
    if (at === result.ready.gate.outcomes.length) return result.decisions.at(place).status
    const value = outcomes[at] ?? null
    return value !== null && typeof value === 'object' && gate.inputs[own + at]!.type === 'text' ? textOfValue(value) : value
  }
}

/** The outcomes, and what became of each record, under the names that highlights know them by. */
function givenColumns(result: Result, gate: RulesGate): [string, Column][] {
  const own = result.ready.gate.inputs.length
  const outcomes = [...result.outcomes().values()].map((column, at): [string, Column] => [gate.inputs[own + at]!.name, column])
  const codes = Int32Array.from({ length: result.on.table.length }, (_, at) => STATUSES.indexOf(result.decisions.at(at).status))
  return [...outcomes, [gate.inputs[own + outcomes.length]!.name, dictionaryFrom('text', codes, STATUSES, new Map())]]
}

/** Nobody is held by what a highlight asks. */
function passing(input: Input): Input {
  return { ...input, blank: 'pass', source: input.source.kind === 'gate' ? { kind: 'given' } : input.source }
}

function distanceText({ of, edges }: Asked): string {
  const distances = edges.map(({ at }) => `abs(${printExpression({ kind: 'arithmetic', operator: '-', left: nameNode(of), right: literalNode(at, 'number')!, span: NOWHERE })})`)
  return distances.length === 1 ? distances[0]! : `min(${distances.join(', ')})`
}

const NOWHERE = { from: 0, to: 0 }
const PLAIN: Omit<Input, 'name'> = { type: 'text', isSet: false, unit: '', source: { kind: 'given' }, expected: null, precision: { kind: 'as measured' }, tolerance: null, blank: 'pass' }

function freeName(wanted: string, taken: Set<string>): string {
  let name = wanted
  for (let number = 2; taken.has(name); number++) name = `${wanted} ${number}`
  taken.add(name)
  return name
}

/** One label against all others. @param name of the outcome that holds it */
export function ofLabel(gate: Pick<Gate, 'outcomes'>, label: string, look: Pick<Highlight, 'colour' | 'mark'>, name: string): Highlight {
  const text = gate.outcomes[0]!.type === 'text' ? JSON.stringify(label) : label
  return { name: label, condition: `${name} = ${text}`, ...look, on: null, isException: false }
}
