/** A session on the records of one table, or of one run: its columns are fetched when they are first needed, and kept. */
import type { ColumnBatch, DecisionBatch } from '@dime-gate/contract/column-wire'
import { inOrder } from '@dime-gate/core/table/in-order'
import { gatesAsked, type Question, tablesAsked } from '@dime-gate/contract/question'
import { inputColumns } from '@dime-gate/core/bulk/input-columns'
import { tableFindings } from '@dime-gate/core/finding/table-findings'
import type { Input, ScaleGate } from '@dime-gate/core/gate/document'
import type { GateProblem } from '@dime-gate/core/gate/gate-problem'
import { newScale } from '@dime-gate/core/gate/new-scale'
import type { Counts, FurtherCounts } from '@dime-gate/core/result/counts'
import { keptResult, resultMaker } from '@dime-gate/core/result/make-results'
import { landingName, type Move, type Moves, movesBetween } from '@dime-gate/core/result/moves'
import type { Reason } from '@dime-gate/core/result/reason'
import type { Result } from '@dime-gate/core/result/result'
import { COMPUTED, type LabelTray, type Tray } from '@dime-gate/core/result/tray'
import { waysOf } from '@dime-gate/core/rule/edit-condition'
import { isOfOneRule, NONE, type Status } from '@dime-gate/core/rule/rules'
import { type Bitmap, countBits, emptyBitmap, placesOf } from '@dime-gate/core/table/bitmap'
import { type CommonValues, commonValues } from '@dime-gate/core/table/common-values'
import { finestPlaces } from '@dime-gate/core/table/finest-places'
import { type Histogram, histogram } from '@dime-gate/core/table/histogram'
import type { NumberColumn } from '@dime-gate/core/table/number-column'
import type { Column } from '@dime-gate/core/table/table'
import { parseDate } from '@dime-gate/core/value/temporal'
import type { ValueKind } from '@dime-gate/core/value/value'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { told, type ToldFinding } from '../findings/told-findings'
import type { Order } from './order'

/** Where a column is to be had. */
export interface ColumnAddress {
  id: number
  kind: ValueKind
  path: string
}

export type ColumnLoader = (address: ColumnAddress, progress: (records: number) => void) => Promise<ColumnBatch>

/** All that a result is made of. */
export interface Asked extends Question {
  asOf: string
}

export interface DecidedGate {
  counts: Counts
  labels: LabelTray[]
  /** Milliseconds that it took. */
  took: number
}

/** How the values of an input are spread, and to how many places they were measured. */
export interface Spread {
  histogram: Histogram | null
  places: number
}

/** A record of the list in view. */
export interface ListedRecord {
  record: number
  status: Status
  rule: number
  /** What it got; null where it got nothing. */
  label: string | null
  reasons: Reason[]
  /** By computed input (see `computedInputs`) its value; null where it came to nothing. */
  computed: (string | null)[]
}

/** As many different values as anybody looks through before typing. */
const MOST_CHOICES = 500
/** Figures are finer than anybody aims at. */
const FIGURE_PLACES = 6

export class Session {
  private readonly columns = new Map<number, Column>()
  private records: Int32Array = new Int32Array()
  private made: { by: string; results: ReturnType<typeof resultMaker> } | null = null
  private result: Result | null = null
  private decided = 0
  /** What was last compared; of the result shown then. */
  private moved: Moves | null = null
  private listed: { tray: Tray; order: Order } = { tray: { kind: 'all' }, order: null }
  /** Places of the listed records in list order; worked out when they are asked for. */
  private places: Uint32Array | null = null

  constructor(private readonly load: ColumnLoader) {}

  /** Fetches what is not here yet. @param progress is told for how many records values have come, on the average of the columns */
  async open(addresses: readonly ColumnAddress[], progress: (records: number) => void = () => undefined): Promise<void> {
    const missing = addresses.filter(({ id }) => !this.columns.has(id))
    const come = missing.map(() => 0)
    await Promise.all(missing.map(async (address, at) => {
      const { records, column } = await this.load(address, (count) => {
        come[at] = count
        progress(Math.floor(come.reduce((sum, one) => sum + one, 0) / come.length))
      })
      this.records = records
      this.columns.set(address.id, column)
    }))
  }

  /** Fetches columns anew that have changed, and puts all of them in place at once: what is decided meanwhile is decided on the old ones. */
  async refresh(addresses: readonly ColumnAddress[]): Promise<void> {
    const fresh = await Promise.all(addresses.map(async (address) => ({ id: address.id, ...(await this.load(address, () => undefined)) })))
    this.columns.clear()
    for (const { id, records, column } of fresh) {
      this.records = records
      this.columns.set(id, column)
    }
    this.made = null
  }

  /** @param work on the columns that are here */
  withColumns<Result>(work: (records: Int32Array, columnOf: (id: number) => Column) => Result): Result {
    return work(this.records, (id) => this.columns.get(id)!)
  }

  forget(): void {
    this.columns.clear()
    this.made = null
  }

  /** @param asked whose columns are all here. @returns what came of it, and by which number it is asked on; or what keeps the gate from deciding */
  decide(asked: Asked): (DecidedGate & { sequence: number }) | { problems: GateProblem[] } {
    const start = performance.now()
    const ready = gatesAsked(asked)
    if ('problems' in ready) return ready
    const by = JSON.stringify([asked.gate.name, asked.gate.inputs.map(({ name, isSet }) => [name, isSet]), asked.inputs, asked.feeding, asked.asOf])
    if (this.made?.by !== by) this.made = { by, results: resultMaker(tablesAsked(asked, this.records.length, (id) => this.columns.get(id)!), parseDate(asked.asOf)!) }
    return this.look(this.made.results(ready.gates), start)
  }

  /** Shows what a run kept, as it was made. @param asked of the run, with the columns as it saw them */
  show(asked: Asked, kept: DecisionBatch): DecidedGate | { problems: GateProblem[] } {
    const start = performance.now()
    this.records = kept.records
    const ready = gatesAsked(asked)
    if ('problems' in ready) return ready
    return this.look(keptResult(ready.gates, tablesAsked(asked, kept.records.length, (id) => this.columns.get(id)!), parseDate(asked.asOf)!, kept), start)
  }

  private look(result: Result, start: number): DecidedGate & { sequence: number } {
    this.result = result
    this.moved = null
    this.places = null
    return { counts: result.counts(), labels: result.trays, sequence: ++this.decided, took: performance.now() - start }
  }

  /** @returns null where another gate was decided since */
  further(sequence: number): FurtherCounts | null {
    return sequence === this.decided ? this.result!.further() : null
  }

  /** What another state of the gate, on the same columns, gives other labels: from it, to the gate decided last. @returns null where it cannot decide, or another gate was decided since */
  compare(asked: Asked, sequence: number): { moves: Move[]; stayed: number } | null {
    const ready = gatesAsked(asked)
    if ('problems' in ready || sequence !== this.decided) return null
    const before = resultMaker(tablesAsked(asked, this.records.length, (id) => this.columns.get(id)!), parseDate(asked.asOf)!)(ready.gates)
    this.moved = movesBetween(before, this.result!)
    return { moves: this.moved.moves, stayed: this.moved.stayed }
  }

  private placesOf(tray: Tray): Bitmap {
    if (tray.kind !== 'moved') return this.result!.places(tray)
    const move = this.moved?.moves.find(({ from, to }) => landingName(from) === tray.from && landingName(to) === tray.to)
    return move ? this.moved!.places(move.from, move.to) : emptyBitmap(this.records.length)
  }

  /** What the table gives away of the last gate. */
  findings(): ToldFinding[] {
    if (!this.result) return []
    const { ready: { lowered, gate }, on: { table, today }, decisions } = this.result
    return told(tableFindings(lowered, table, decisions, today), gate, lowered)
  }

  /** @returns null where the input has no numbers */
  spread(input: string): Spread | null {
    const { ready: { lowered }, on: { table, today } } = this.result!
    const vector = inputColumns(table, lowered, today).input(input)
    if (vector?.kind !== 'number') return null
    const column = table.columns.get(input)
    const { precision } = lowered.inputs.get(input)!
    const isMeasured = precision.kind === 'as measured'
    const places = !isMeasured ? precision.places : column && 'kind' in column && column.kind === 'number' ? finestPlaces(column) : FIGURE_PLACES
    return { histogram: histogram(vector), places }
  }

  /** Of a rule's condition, by the way of each of its parts, how many records it holds for. */
  parts(rule: number): [way: string, records: number][] {
    const condition = this.result?.ready.lowered.rules[rule]?.condition
    return condition ? waysOf(condition).map((way) => [way.join('.'), countBits(this.result!.places({ kind: 'part', rule, way: [...way] }))]) : []
  }

  /** The values that an input has in the table; null where it has numbers, or none at all. */
  choices(input: string): CommonValues | null {
    const column = this.result?.on.table.columns.get(input)
    return column && 'kind' in column && column.kind === 'dictionary' ? commonValues(column, MOST_CHOICES) : null
  }

  /** A first scale on a column that is here. */
  firstScale(name: string, input: Input, column: number): ScaleGate {
    return newScale(name, input, this.columns.get(column) as NumberColumn)
  }

  /** @returns how many records are listed now */
  list(tray: Tray, order: Order): number {
    this.listed = { tray, order }
    this.places = null
    return this.result ? countBits(this.placesOf(tray)) : 0
  }

  /** The listed records from place `from` up to, not including, `to`. */
  window(from: number, to: number): ListedRecord[] {
    const { tray, order } = this.listed
    if (!this.result) return []
    if (!this.places) {
      const all = placesOf(this.placesOf(tray))
      this.places = order ? inOrder(all, order.direction, this.columns.get(order.column)!) : all
    }
    return Array.from(this.places.subarray(from, to), (at) => this.recordAt(at))
  }

  private recordAt(at: number): ListedRecord {
    const result = this.result!
    const { status, rule } = result.decisions.at(at)
    const seen = result.seen(at)
    return { record: this.records[at]!, status, rule, label: this.labelAt(at, status, rule), reasons: result.reasons(at), computed: computedInputs(result.ready.gate.inputs).map(({ name }) => seen(name)) }
  }

  private labelAt(at: number, status: Status, rule: number): string | null {
    if (status !== 'labelled' && status !== 'otherwise') return null
    const { lowered } = this.result!.ready
    const entry = (rule === NONE ? lowered.otherwise! : lowered.rules[rule]!.entries)[0]!
    if ('value' in entry && isOfOneRule(lowered)) return textOfValue(entry.value)
    const [label] = this.result!.why(at).decision.outcomes
    return label === undefined ? COMPUTED : textOfValue(label)
  }
}

/** The inputs that no column holds: figures, and what other gates gave. */
export function computedInputs(inputs: readonly Input[]): Input[] {
  return inputs.filter(({ source }) => source.kind !== 'given')
}
