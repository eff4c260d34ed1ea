/** One result for everything: what a gate makes of a table, whatever the gate's form. Pages, runs and files all take it. */
import type { TableDecider } from '../bulk/decide-table'
import type { ReadyGate } from '../bulk/decide-gates'
import type { Decisions } from '../bulk/decisions'
import { outcomeColumns } from '../bulk/outcome-columns'
import { factsOf } from '../decide/facts'
import { whyOf, type Why } from '../decide/why'
import type { Condition } from '../rule/condition'
import { partAt } from '../rule/edit-condition'
import { inputTypes, readCondition } from '../rule/read-condition'
import type { LoweredInput } from '../rule/rules'
import { type Bitmap, bitmapOf, countBits, emptyBitmap, fullBitmap, hasBit, setBit, unionOf, without } from '../table/bitmap'
import { BLANK_CODE } from '../table/dictionary-column'
import { type Column, recordAt, type Table } from '../table/table'
import type { DateValue } from '../value/value'
import { textOfValue } from '../value/value-text'
import type { Counts, EdgeCounts, FurtherCounts, InputCounts } from './counts'
import { type Asked, besideAny, edgesOf } from './edges'
import { type Reason, reasonsOf } from './reason'
import { labelTrays, type LabelTray, type Tray } from './tray'

/** Whoever is one of these is looked at. */
const EXCEPTIONAL = ['unplaced', 'held', 'contested'] as const

/** A table, and who decides it. */
export interface Decided {
  table: Table
  decider: TableDecider
  today: DateValue
  /** Each after those that feed it, the one that is asked last, and what each looks at beside what feeds it. */
  gates: readonly ReadyGate[]
  tables: Tables
}

/** By gate its table, with the columns under the names of that gate's inputs. */
export type Tables = (gate: string) => Table

/** Holds as long as its decisions do: until the decider decides again. */
export class Result {
  readonly trays: LabelTray[]
  private readonly asked: Asked[]

  constructor(readonly ready: ReadyGate, readonly on: Decided, readonly decisions: Decisions) {
    this.trays = labelTrays(ready)
    this.asked = edgesOf(ready, on.today)
  }

  counts(): Counts {
    const { caught, otherwise, unplaced, held, contested } = this.decisions.counts
    const { edges, outside } = this.asides()
    const inputs = [...this.ready.lowered.inputs.values()].filter(({ source, name }) => source.kind === 'given' || outside.has(name))
    return {
      records: this.on.table.length, caught, otherwise, unplaced, held, contested, edges,
      inputs: inputs.map((input): InputCounts => ({ input: input.name, ...this.missing(input), outside: outside.get(input.name) ?? 0 })),
    }
  }

  further(): FurtherCounts {
    const { decisions, on: { table, decider }, ready } = this
    const kinds = (['unreadable', 'outside', 'on an edge', 'near an edge'] as const).map((kind) => this.places({ kind }))
    const [unreadable, outside, onEdge, nearEdge] = kinds.map(countBits) as [number, number, number, number]
    const exceptions = countBits(unionOf([decisions.having(EXCEPTIONAL), ...kinds], table.length))
    return { alone: decider.alone(ready.lowered), exceptions, unreadable, outside, onEdge, nearEdge }
  }

  /** The records of a tray. One that the gate does not have is empty. */
  places(tray: Tray): Bitmap {
    const { decisions, on: { table, decider }, ready: { lowered }, asked } = this
    const { length } = table
    const empty = () => bitmapOf([], length)
    switch (tray.kind) {
      case 'all':
        return fullBitmap(length)
      case 'label':
        return decisions.having(this.rulesOf(tray.label))
      case 'rule':
        return decisions.having([tray.rule])
      case 'alone':
        return lowered.rules[tray.rule] ? decider.trueFor(lowered, lowered.rules[tray.rule]!.condition) : empty()
      case 'only': {
        const others = lowered.rules.filter((_, rule) => rule !== tray.rule).map(({ condition }) => decider.trueFor(lowered, condition))
        return without(this.places({ kind: 'alone', rule: tray.rule }), unionOf(others, length))
      }
      case 'part':
      case 'condition': {
        const whole = tray.kind === 'part' ? lowered.rules[tray.rule]?.condition : lowered.conditions.get(tray.name)
        const part = whole && partAt(whole, tray.way)
        return part ? decider.trueFor(lowered, part) : empty()
      }
      case 'where': {
        const read = readCondition(tray.condition, inputTypes([...lowered.inputs.values()]))
        return 'condition' in read ? decider.trueFor(lowered, read.condition) : empty()
      }
      case 'edge': {
        const condition = asked.find(({ of }) => of === tray.of)?.edges.find(({ at }) => at === tray.at)?.sides[tray.side]
        return condition ? decider.trueFor(lowered, condition) : empty()
      }
      case 'on an edge':
        return this.where((one) => besideAny(one, ['on']))
      case 'near an edge':
        return this.where((one) => besideAny(one, ['short', 'past']))
      case 'outside':
        return this.where(({ outside }) => outside)
      case 'unreadable':
        return bitmapOf([...lowered.inputs.values()].flatMap((input) => membersOf(table, input).flatMap(({ unreadable }) => [...unreadable.keys()])), length)
      case 'exceptions': {
        const kinds = ['unreadable', 'outside', 'on an edge', 'near an edge'] as const
        return unionOf([decisions.having(EXCEPTIONAL), ...kinds.map((kind) => this.places({ kind }))], length)
      }
      case 'moved':
      case 'nearest':
      case 'highlighted':
        // One result alone moves nothing, and knows of no highlights, nor of what it would take to change it.
        return empty()
      default:
        return decisions.having([tray.kind])
    }
  }

  /** How many records a tray has: of what a gate gives, without a look at each of them. */
  count(tray: Tray): number {
    const { decisions: { counts }, on: { table } } = this
    switch (tray.kind) {
      case 'all':
        return table.length
      case 'label':
        return this.rulesOf(tray.label).reduce((sum, rule) => sum + counts.caught[rule]!, 0)
      case 'rule':
        return counts.caught[tray.rule] ?? 0
      case 'otherwise':
      case 'unplaced':
      case 'held':
      case 'contested':
        return counts[tray.kind]
      default:
        return countBits(this.places(tray))
    }
  }

  private rulesOf(label: string | null): readonly number[] {
    return this.trays.find(({ tray }) => tray.label === label)?.rules ?? []
  }

  /** By outcome its column; blank for a record that has none. */
  outcomes(): Map<string, Column> {
    return outcomeColumns(this.ready.lowered, this.on.table, this.decisions, this.on.decider)
  }

  /** Why someone should look at the record; none for most. */
  reasons(at: number): Reason[] {
    return this.reasonsBy(at)
  }

  /** The same for whoever asks it of many: what is asked of all is asked of the whole table at once. */
  manyReasons(): (at: number) => Reason[] {
    const { on: { decider }, ready: { lowered } } = this
    const places = new Map<Condition, Bitmap>()
    const isTrueAt = (at: number) => (condition: Condition) => {
      if (!places.has(condition)) places.set(condition, decider.trueFor(lowered, condition))
      return hasBit(places.get(condition)!, at)
    }
    return (at) => this.reasonsBy(at, isTrueAt(at))
  }

  /** What the gate saw of a record, by input, in canonical text; null for a blank. */
  seen(at: number): (input: string) => string | null {
    const { on: { table, today }, ready: { lowered } } = this
    const { value } = factsOf(lowered, recordAt(table, at), today)
    return (input) => {
      const found = value(input)
      return found === null ? null : textOfValue(found)
    }
  }

  why(at: number): Why {
    const { table, today } = this.on
    const { lowered } = this.ready
    return whyOf(lowered, recordAt(table, at), today, unreadableAt(table, lowered.inputs.values(), at))
  }

  private reasonsBy(at: number, isTrue?: (condition: Condition) => boolean): Reason[] {
    const { on: { table, today }, ready, asked } = this
    return reasonsOf(ready, asked, factsOf(ready.lowered, recordAt(table, at), today), this.decisions.at(at).status, unreadableAt(table, ready.lowered.inputs.values(), at), isTrue)
  }

  private where(wanted: (one: Asked) => Condition | null): Bitmap {
    const { table, decider } = this.on
    const found = this.asked.flatMap((one) => {
      const condition = wanted(one)
      return condition ? [decider.trueAmong(this.ready.lowered, one.of, conditionsOf(one), condition)] : []
    })
    return unionOf(found, table.length)
  }

  private asides(): { edges: EdgeCounts[]; outside: ReadonlyMap<string, number> } {
    const edges: EdgeCounts[] = []
    const outsides = new Map<string, number>()
    for (const one of this.asked) {
      const [{ of, edges: own, outside }, conditions] = [one, conditionsOf(one)]
      const counts = new Map(this.on.decider.countTrue(this.ready.lowered, of, conditions).map((count, at) => [conditions[at]!, count]))
      const count = (condition: Asked['outside']) => (condition ? counts.get(condition)! : 0)
      edges.push(...own.map(({ at, sides: { on, short, past } }) => ({ of, at, on: count(on), short: count(short), past: count(past) })))
      if (outside) outsides.set(of, count(outside))
    }
    return { edges, outside: outsides }
  }

  /** Of a column set a record is without a value where no member has one. */
  private missing(input: LoweredInput): Pick<InputCounts, 'blank' | 'unreadable'> {
    if (input.source.kind !== 'given') return { blank: 0, unreadable: 0 }
    const { length } = this.on.table
    const [first, ...others] = membersOf(this.on.table, input)
    if (!first) return { blank: length, unreadable: 0 }
    if (others.length === 0) return { blank: length - valuesIn(first) - first.unreadable.size, unreadable: first.unreadable.size }
    const unreadable = bitmapOf([first, ...others].flatMap((one) => [...one.unreadable.keys()]), length)
    return { blank: length - countBits(unionOf([unreadable, ...[first, ...others].map(validOf)], length)), unreadable: countBits(unreadable) }
  }
}

/** All that is asked of one thing: always the same, so that its records are put into classes once. */
function conditionsOf({ edges, outside }: Asked): Condition[] {
  return [...edges.flatMap(({ sides }) => Object.values(sides)), outside].filter((one) => one !== null)
}

export function membersOf({ columns }: Table, { name }: Pick<LoweredInput, 'name'>): readonly Column[] {
  const column = columns.get(name)
  if (!column) return []
  return 'kind' in column ? [column] : column
}

function unreadableAt(table: Table, inputs: Iterable<LoweredInput>, at: number): ReadonlyMap<string, string> {
  return new Map([...inputs].flatMap((input) => membersOf(table, input).flatMap(({ unreadable }): [string, string][] => (unreadable.has(at) ? [[input.name, unreadable.get(at)!]] : []))))
}

const counted = new WeakMap<Column, number>()

/** Columns do not change, and are asked about with every step of a drag. */
function valuesIn(column: Column): number {
  const known = counted.get(column) ?? countBits(validOf(column))
  counted.set(column, known)
  return known
}

function validOf(column: Column): Bitmap {
  if (column.kind === 'number') return column.valid
  const valid = emptyBitmap(column.length)
  for (let at = 0; at < column.length; at++) if (column.codes[at] !== BLANK_CODE) setBit(valid, at)
  return valid
}
