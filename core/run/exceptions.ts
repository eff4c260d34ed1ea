/** The records of a result that someone should look at, by what is the matter with them. */
import { spaceOf } from '../rule/axes'
import { type Condition, conditionOf, conditionText } from '../rule/condition'
import type { TableDecider } from '../bulk/decide-table'
import type { Expected } from '../gate/document'
import type { Decisions } from '../bulk/decisions'
import { literalNode, nameNode } from '../rule/literal'
import type { Lowered, LoweredInput } from '../rule/rules'
import { type Bitmap, bitmapOf, countBits, unionOf } from '../table/bitmap'
import type { Table } from '../table/table'
import { type Decimal, type DecimalText, plain } from '../value/number'
import { type DateValue, isNumber } from '../value/value'

export type ExceptionKind = 'unplaced' | 'held' | 'contested' | 'unreadable' | 'outside range' | 'on an edge' | 'short of an edge' | 'past an edge' | 'highlighted'

export interface ExceptionGroup {
  kind: ExceptionKind
  /** The input concerned; null for the record as a whole. */
  input: string | null
  /** The cut concerned, or the highlight's condition, in FEEL; empty where there is none. */
  at: string
  places: Bitmap
  records: number
}

export interface ExceptionSettings {
  /** By input how near to a cut still counts as beside it, in the input's unit; none where it is not given. */
  tolerances: ReadonlyMap<string, DecimalText>
  /** Conditions of the gate's own that mark records whatever their label. */
  highlights: readonly Condition[]
}

/** Groups without any record are left out; a record may be in several. */
export function exceptionsOf(gate: Lowered, table: Table, decisions: Decisions, decider: TableDecider, today: DateValue, settings: ExceptionSettings): ExceptionGroup[] {
  const groups: ExceptionGroup[] = []
  const add = (kind: ExceptionKind, input: string | null, at: string, places: Bitmap) => {
    const records = countBits(places)
    if (records > 0) groups.push({ kind, input, at, places, records })
  }
  const where = (condition: Condition) => decider.trueFor(gate, condition)
  for (const kind of ['unplaced', 'held', 'contested'] as const) add(kind, null, '', decisions[kind])
  for (const input of gate.inputs.values()) {
    const column = table.columns.get(input.name)
    if (column && 'kind' in column) add('unreadable', input.name, '', bitmapOf(column.unreadable.keys(), table.length))
    const outside = input.expected && outsideOf(input, input.expected)
    if (outside) add('outside range', input.name, '', where(outside))
  }
  for (const { name, cut } of cutsOf(gate, today)) {
    const text = plain(cut)
    add('on an edge', name, text, where(comparison(name, '=', text)))
    const tolerance = settings.tolerances.get(name)
    if (!tolerance) continue
    add('short of an edge', name, text, where({ kind: 'all', of: [comparison(name, '>=', plain(cut.minus(tolerance))), comparison(name, '<', text)] }))
    add('past an edge', name, text, where({ kind: 'all', of: [comparison(name, '>', text), comparison(name, '<=', plain(cut.plus(tolerance)))] }))
  }
  for (const highlight of settings.highlights) add('highlighted', null, conditionText(highlight), where(highlight))
  return groups
}

/** How many records are in any group. */
export function exceptionCount(groups: readonly ExceptionGroup[], length: number): number {
  return countBits(unionOf(groups.map(({ places }) => places), length))
}

/** The numbers at which a test of an input changes its mind. */
function cutsOf(gate: Lowered, today: DateValue): { name: string; cut: Decimal }[] {
  return spaceOf(gate, today).axes.flatMap(({ name, input, regions }) => {
    const isInput = input !== null || gate.inputs.has(name)
    return isInput ? regions.flatMap(({ isPoint, example }) => (isPoint && isNumber(example) ? [{ name, cut: example }] : [])) : []
  })
}

const NOWHERE = { from: 0, to: 0 }

function comparison(name: string, operator: '=' | '<' | '<=' | '>' | '>=', text: string, kind: LoweredInput['type'] = 'number'): Condition {
  return conditionOf({ kind: 'comparison', operator, left: nameNode(name), right: literalNode(text, kind)!, span: NOWHERE })
}

function outsideOf({ name, type, isSet }: LoweredInput, expected: Expected): Condition | null {
  if (isSet) return null
  if (expected.kind === 'list') return { kind: 'not', of: conditionOf({ kind: 'in', of: nameNode(name), tests: expected.values.map((value) => literalNode(value, type)!), span: NOWHERE }) }
  const { low, high } = expected
  const sides = [low && comparison(name, low.included ? '<' : '<=', low.at, type), high && comparison(name, high.included ? '>' : '>=', high.at, type)]
  return { kind: 'any', of: sides.filter((side) => side !== null) }
}
