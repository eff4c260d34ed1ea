/**
 * Highlights: conditions of one's own over what a gate gave. All of a gate's are the rules of one gate more, which looks at what the first looks at,
 * at its outcomes, at what became of a record, at how far its values are from the nearest cut, and at what else the table has; a record gets all
 * those whose rules hold.
 */
import type { ReadyGate } from '../bulk/decide-gates'
import { tableDecider } from '../bulk/decide-table'
import { testVerdict } from '../decide/decide-record'
import { factsOf } from '../decide/facts'
import { TRUE, verdictOf } from '../decide/verdict'
import { nameTrouble, usableName } from '../expression/names'
import { printExpression } from '../expression/print'
import { EMPTY_LIBRARY, type Gate, type Input, type RulesGate } from '../gate/document'
import type { Mark } from '../gate/mark'
import { outcomeKind } from '../gate/outcome-kind'
import { type Asked, edgesOf } from '../result/edges'
import type { Result } from '../result/result'
import { literalNode, nameNode } from '../rule/literal'
import { lower } from '../rule/lower'
import { readCondition, typesIn } from '../rule/read-condition'
import { type Lowered, STATUSES } from '../rule/rules'
import { usedInputs } from '../rule/used-inputs'
import { type Bitmap, emptyBitmap } from '../table/bitmap'
import { type CommonValues, commonValues } from '../table/common-values'
import { dictionaryFrom } from '../table/dictionary-column'
import type { NumberColumn } from '../table/number-column'
import { type Column, recordAt, valueAt } from '../table/table'
import { type ColumnType, kindOfColumn } from '../value/read-cell'
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

/** A column of the table at hand that the gate does not look at. @property input as highlights know it */
export interface OtherColumn {
  id: number
  input: Input
}

/** What else a table has, for highlights to look at. @property columnOf for those that highlights name at least */
export interface Others {
  columns: readonly OtherColumn[]
  columnOf(id: number): Column | undefined
}

export const NO_OTHERS: Others = { columns: [], columnOf: () => undefined }

/**
 * The columns of a table that highlights can look at beside what the gate looks at, each under its own name. One whose name something of the
 * gate's has, or that conditions cannot use, gets one as near to it as can be.
 * @param bound those that stand for inputs of the gate
 */
export function otherColumns(ready: ReadyGate, today: DateValue, columns: readonly { id: number; name: string; type: ColumnType; unit: string }[], bound: readonly number[]): OtherColumn[] {
  const taken = new Set(highlightGate(ready, [], today).inputs.map(({ name }) => name))
  return columns.filter(({ id }) => !bound.includes(id)).map(({ id, name, type, unit }) => ({ id, input: { ...PLAIN, name: freeName(usableName(name), taken), type: kindOfColumn(type), unit } }))
}

/** Which of the other columns highlights look at. */
export function othersAsked(ready: ReadyGate, today: DateValue, highlights: readonly Highlight[], others: readonly OtherColumn[]): OtherColumn[] {
  const { lowered } = readHighlights(highlightGate(ready, highlights, today, others))
  const used = lowered ? usedInputs(lowered) : new Set()
  return others.filter(({ input }) => used.has(input.name))
}

/**
 * The gate that a gate's highlights are the rules of. What other gates give it counts as given; a blank makes no highlight. An outcome
 * whose name conditions cannot use is called *Label*, or by its place.
 * @param gate lowered, for the places at which it cuts
 */
export function highlightGate({ gate, lowered }: ReadyGate, highlights: readonly Highlight[], today: DateValue, others: readonly OtherColumn[] = []): RulesGate {
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
    inputs: [...gate.inputs.map(passing), ...outcomes, status, ...distances, ...others.map(({ input }) => input)],
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

/** @property lowered of those that can be read; null where a figure of the gate's own does not go with what highlights may ask: then none of them can be */
function readHighlights(gate: RulesGate): { isRead: boolean[]; lowered: Lowered | null } {
  const types = typesIn(gate)
  const isRead = gate.rules.map(({ condition }) => condition.trim() !== '' && 'condition' in readCondition(condition, types))
  const lowering = lower({ ...gate, rules: gate.rules.filter((_, at) => isRead[at]) }, EMPTY_LIBRARY)
  return 'problems' in lowering ? { isRead: isRead.map(() => false), lowered: null } : { isRead, lowered: lowering.lowered }
}

export function highlighted(result: Result, highlights: readonly Highlight[], others = NO_OTHERS): Highlighted {
  const { ready: of, on: { table, today } } = result
  const { length } = table
  const gate = highlightGate(of, highlights, today, others.columns)
  const { isRead, lowered } = readHighlights(gate)
  if (!lowered) return { isRead, places: () => isRead.map(() => emptyBitmap(length)), at: () => [] }
  const used = usedInputs(lowered)
  const asked = new Map(others.columns.flatMap(({ id, input: { name } }): [string, Column][] => (used.has(name) ? [[name, others.columnOf(id)!]] : [])))
  const rules = isRead.flatMap((is, at) => (is ? [at] : []))
  return {
    isRead,
    places() {
      // Outcomes of a million records are not made into columns for nobody.
      if (rules.length === 0) return isRead.map(() => emptyBitmap(length))
      const columns = new Map<string, Column | readonly NumberColumn[]>([...table.columns, ...givenColumns(result, gate), ...asked])
      const decider = tableDecider({ length, columns }, today)
      const held = lowered.rules.map(({ condition }) => decider.trueFor(lowered, condition))
      return isRead.map((is, at) => (is ? held[rules.indexOf(at)]! : emptyBitmap(length)))
    },
    at(place) {
      const facts = factsOf(lowered, givenAt(result, gate, asked, place), today)
      return rules.filter((_, at) => verdictOf(lowered.rules[at]!.condition, (test) => testVerdict(lowered, test, facts)) === TRUE)
    },
  }
}

/** The values that a highlight can ask for, and how many records have each: also those that the gate could give, and gives nobody. Null where there is no list of them. */
export function highlightChoices(result: Result, name: string, most: number, others = NO_OTHERS): CommonValues | null {
  const gate = highlightGate(result.ready, [], result.on.today)
  const other = others.columns.find(({ input }) => input.name === name)
  const column = other ? others.columnOf(other.id) : (result.on.table.columns.get(name) ?? new Map(givenColumns(result, gate)).get(name))
  if (!column || !('kind' in column) || column.kind !== 'dictionary') return null
  const { values, distinct } = commonValues(column, most)
  const expected = gate.inputs.find((input) => input.name === name)?.expected
  const missing = expected?.kind === 'list' ? expected.values.filter((text) => !values.some((one) => one.text === text)) : []
  return { values: [...values, ...missing.map((text) => ({ text, records: 0 }))], distinct: distinct + missing.length }
}

/** What a highlight can ask of one record. */
function givenAt(result: Result, gate: RulesGate, asked: ReadonlyMap<string, Column>, place: number): (name: string) => Value {
  const { table } = result.on
  const own = result.ready.gate.inputs.length
  const { outcomes } = result.why(place).decision
  const given = recordAt(table, place)
  const added = new Map(gate.inputs.slice(own).map(({ name }, at) => [name, at]))
  return (name) => {
    const other = asked.get(name)
    if (other) return valueAt(other, place)
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
