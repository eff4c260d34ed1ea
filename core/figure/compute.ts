/** Figures of many records: fast where doubles stand for their decimals, and otherwise in decimals, record by record. */
import { inputColumns } from '../bulk/input-columns'
import { standsFor } from '../bulk/vector'
import { type Facts, factsOf, missingInputs } from '../decide/facts'
import type { Note } from '../expression/evaluate'
import type { LoweredInput } from '../rule/rules'
import { hasBit } from '../table/bitmap'
import type { Cell } from '../table/cells'
import type { NumberColumn } from '../table/number-column'
import { type Column, columnOf, recordAt, type Table, valueTextAt } from '../table/table'
import { decimalTextOf } from '../value/number'
import type { DateValue, Value, ValueKind } from '../value/value'
import { textOfValue } from '../value/value-text'
import type { ColumnSet, Figure } from './figure'

/** Why a figure came to nothing: these have no value, or the arithmetic gave none. */
export type Nothing = { missing: string[] } | { shortfall: Note['shortfall'] }

/** Computed when they are asked for, and kept. */
export class FigureValues {
  private readonly inputs: ReadonlyMap<string, LoweredInput>
  private readonly table: Table
  private readonly made = new Map<string, Column>()

  /**
   * @param figures in an order in which they can be computed
   * @param column the values of a given column that one of them needs
   */
  constructor(
    private readonly figures: readonly Figure[],
    sets: readonly ColumnSet[],
    readonly length: number,
    column: (name: string) => Column,
    private readonly today: DateValue,
  ) {
    const needs = new Set(figures.flatMap((figure) => figure.needs))
    const columns = new Map<string, Column | NumberColumn[]>([...needs].map((name) => [name, column(name)]))
    const seen = sets.filter(({ members }) => members.some((name) => needs.has(name)))
    for (const { name, members } of seen) {
      const own = members.flatMap((member) => (needs.has(member) ? [columns.get(member) as NumberColumn] : []))
      columns.set(name, own)
    }
    this.table = { length, columns }
    const kindOf = (name: string): ValueKind => {
      const one = columns.get(name)!
      return 'kind' in one && one.kind === 'dictionary' ? one.type : 'number'
    }
    this.inputs = new Map([
      ...[...needs].map((name) => [name, input(name, kindOf(name))] as const),
      ...seen.map(({ name }) => [name, { ...input(name, 'number'), isSet: true }] as const),
      ...figures.map(({ name, kind, tree }) => [name, { ...input(name, kind), figure: tree }] as const),
    ])
  }

  column(name: string): Column {
    const known = this.made.get(name)
    if (known) return known
    const column = columnOf(this.figures.find((figure) => figure.name === name)!.kind, this.cells(name))
    this.made.set(name, column)
    return column
  }

  valueAt(name: string, at: number): Value {
    return this.factsAt(at).value(name)
  }

  /**
   * Which records have a value, and how numbers are spread, without the decimals: what a preview needs while somebody types.
   * Where doubles cannot tell, record by record, of as many as there is time for.
   * @param hasTime is asked now and then
   */
  quickly(
    name: string,
    hasTime: () => boolean,
  ): { of: number; has(at: number): boolean; doubles: Pick<NumberColumn, 'length' | 'doubles' | 'valid'> | null } {
    const vector = inputColumns(this.table, { inputs: this.inputs }, this.today).input(name)
    if (vector?.kind === 'number') return { of: this.length, has: (at) => hasBit(vector.valid, at), doubles: vector }
    const values: (Value | undefined)[] = []
    while (values.length < this.length && (values.length % 64 !== 0 || hasTime())) values.push(this.valueAt(name, values.length))
    const isNumbers = this.figures.find((figure) => figure.name === name)!.kind === 'number'
    const column = isNumbers
      ? columnOf(
          'number',
          values.map((value) => (value === null ? null : textOfValue(value!))),
        )
      : null
    return { of: values.length, has: (at) => values[at] !== null, doubles: column as NumberColumn | null }
  }

  /** @param name of a figure that has no value there */
  nothingAt(name: string, at: number): Nothing {
    const facts = this.factsAt(at)
    const missing = missingInputs({ inputs: this.inputs }, facts, [name]).filter((one) => one !== name)
    facts.value(name)
    const [note] = [...facts.notes.values()].flat()
    return missing.length > 0 || !note ? { missing } : { shortfall: note.shortfall }
  }

  /** What a record has for a name that its figures use. */
  givenAt(at: number): (name: string) => Value {
    return this.factsAt(at).value
  }

  private factsAt(at: number): Facts {
    return factsOf({ inputs: this.inputs }, recordAt(this.table, at), this.today)
  }

  private cells(name: string): Cell[] {
    const vector = inputColumns(this.table, { inputs: this.inputs }, this.today).input(name)
    const inDecimals = this.inDecimals(name)
    const cells = new Array<Cell>(this.length)
    for (let at = 0; at < this.length; at++) {
      if (vector?.kind === 'number' && !hasBit(vector.valid, at)) cells[at] = null
      else if (vector?.kind === 'number' && standsFor(vector, at)) cells[at] = decimalTextOf(vector.doubles[at]!)
      else cells[at] = inDecimals(at)
    }
    return cells
  }

  /** What measured values come to repeats itself, and to reckon with decimals takes many times as long as to look it up. */
  private inDecimals(name: string): (at: number) => string | null {
    const { needs } = this.figures.find((figure) => figure.name === name)!
    const columns = needs.map((need) => this.table.columns.get(need) as Column)
    const known = new Map<string, string | null>()
    return (at) => {
      let key = ''
      for (const column of columns) {
        const text = valueTextAt(column, at)
        // Its length says where a text ends, whatever is in it.
        key += text === null ? '-' : `${text.length}:${text}`
      }
      const before = known.get(key)
      if (before !== undefined) return before
      const value = this.valueAt(name, at)
      const text = value === null ? null : textOfValue(value)
      if (known.size < MOST_KNOWN) known.set(key, text)
      return text
    }
  }
}

/** Beyond, values hardly repeat themselves. */
const MOST_KNOWN = 100_000

function input(name: string, type: ValueKind): LoweredInput {
  return {
    name,
    type,
    isSet: false,
    unit: '',
    source: { kind: 'given' },
    expected: null,
    precision: { kind: 'as measured' },
    tolerance: null,
    blank: 'pass',
    figure: null,
  }
}
