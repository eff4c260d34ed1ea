/** A session on the records of one table, or of one run: its columns are fetched when they are first needed, and kept. */
import { bisectLeft } from 'd3-array'
import type { ColumnBatch, DecisionBatch } from '@dime-gate/contract/column-wire'
import { inOrder } from '@dime-gate/core/table/in-order'
import { gatesAsked, type Question, tablesAsked } from '@dime-gate/contract/question'
import { inputColumns } from '@dime-gate/core/bulk/input-columns'
import type { NumberVector } from '@dime-gate/core/bulk/vector'
import { tableFindings } from '@dime-gate/core/finding/table-findings'
import type { GridSide, Input, ScaleGate } from '@dime-gate/core/gate/document'
import type { GateProblem } from '@dime-gate/core/gate/gate-problem'
import { firstCuts, newScale } from '@dime-gate/core/gate/new-scale'
import { isLineKind } from '@dime-gate/core/gate/scale-axis'
import type { Highlight } from '@dime-gate/core/highlight/highlight'
import type { Counts, FurtherCounts } from '@dime-gate/core/result/counts'
import { keptResult, resultMaker } from '@dime-gate/core/result/make-results'
import { listedAt, type ListedRecord } from '@dime-gate/core/result/listed-record'
import { missingOf } from '@dime-gate/core/result/missing'
import { landingName,  type Moves, movesBetween } from '@dime-gate/core/result/moves'
import { nearestToLabel } from '@dime-gate/core/nearest/nearest'
import type { Result } from '@dime-gate/core/result/result'
import type { LabelTray, Tray } from '@dime-gate/core/result/tray'
import { waysOf } from '@dime-gate/core/rule/edit-condition'
import { NONE } from '@dime-gate/core/rule/rules'
import { type Bitmap, bitmapOf, countBits, emptyBitmap, hasBit, placesBetween, placesOf } from '@dime-gate/core/table/bitmap'
import { type CommonValues, commonValues } from '@dime-gate/core/table/common-values'
import { finestPlaces } from '@dime-gate/core/table/finest-places'
import { type Histogram, histogram } from '@dime-gate/core/table/histogram'
import { replaceCells } from '@dime-gate/core/table/replace-cells'
import { countedCuts, type ProposedCuts, proposedCuts, type Way } from '@dime-gate/core/table/proposed-cuts'
import type { Column } from '@dime-gate/core/table/table'
import { parseDate } from '@dime-gate/core/value/temporal'
import { told, type ToldFinding } from '../findings/told-findings'
import type { Order } from './order'
import type { ChangedCells } from './changed-cells'
import type { ColumnAddress } from './column-address'
import { MOST_CHOICES, SessionHighlights, type TableBeside, type ToldHighlights } from './session-highlights'

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

/** What moves, without the records. */
export type ToldMoves = Pick<Moves, 'moves' | 'stayed'>

/** How the values of an input are spread, and to how many places they were measured. */
export interface Spread {
  histogram: Histogram | null
  places: number
}

/** As many lines as a first grid has of single values. */
const MOST_LINES = 12
/** As many values as a line of a list may have. */
const MOST_SORTED = 10_000
/** Figures are finer than anybody aims at. */
const FIGURE_PLACES = 6
/** Lengths of time are told in days. */
const DURATION_PLACES = 2

/** Trays that a result by itself knows nothing of. */
const OF_SESSION: readonly Tray['kind'][] = ['moved', 'nearest', 'highlighted']

export class Session {
  private readonly columns = new Map<number, Column>()
  private records: Int32Array = new Int32Array()
  private made: { by: string; results: ReturnType<typeof resultMaker> } | null = null
  private result: Result | null = null
  private decided = 0
  private readonly highlights = new SessionHighlights(this.columns, (addresses) => this.open(addresses))
  /** What was last compared; of the result shown then. */
  private moved: Moves | null = null
  private listed: { tray: Tray; order: Order; within: Int32Array | null } = { tray: { kind: 'all' }, order: null, within: null }
  /** The listed records, and their places where they are in another order than they lie; worked out when they are asked for. */
  private shown: Bitmap | null = null
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

  /**
   * Fetches columns anew that have changed, and puts all of them in place at once: what is decided meanwhile is decided on the old ones.
   * @param changed all that is different in them, where that is known: then what is here is not fetched again
   */
  async refresh(addresses: readonly ColumnAddress[], changed: ChangedCells | null = null): Promise<void> {
    const beside = this.highlights.addresses().filter(({ id }) => !addresses.some((one) => one.id === id))
    const places = changed && placesIn(this.records, changed.records)
    const fresh = await Promise.all([...addresses, ...beside].map(async (address) => {
      const [here, cells] = [this.columns.get(address.id), changed?.cells.get(address.id)]
      const isKnown = here && cells && places
      return { id: address.id, ...(isKnown ? { records: this.records, column: replaceCells(here, places, cells) } : await this.load(address, () => undefined)) }
    }))
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
    this.highlights.on(result)
    this.listAnew()
    return { counts: result.counts(), labels: result.trays, sequence: ++this.decided, took: performance.now() - start }
  }

  /** @returns null where another gate was decided since */
  further(sequence: number): FurtherCounts | null {
    return sequence === this.decided ? this.result!.further() : null
  }

  /** What another state of the gate, on the same columns, gives other labels: from it, to the gate decided last. @returns null where it cannot decide, or another gate was decided since */
  compare(asked: Asked, sequence: number): ToldMoves | null {
    const ready = gatesAsked(asked)
    if ('problems' in ready || sequence !== this.decided) return null
    const before = resultMaker(tablesAsked(asked, this.records.length, (id) => this.columns.get(id)!), parseDate(asked.asOf)!)(ready.gates)
    this.moved = movesBetween(before, this.result!)
    return toldMoves(this.moved)
  }

  /** What one question on these columns gives other labels than another. @returns null where one of them cannot decide */
  movesBetween(before: Asked, after: Asked): ToldMoves | null {
    const [was, is] = [before, after].map((asked) => {
      const ready = gatesAsked(asked)
      return 'problems' in ready ? null : resultMaker(tablesAsked(asked, this.records.length, (id) => this.columns.get(id)!), parseDate(asked.asOf)!)(ready.gates)
    })
    return was && is ? toldMoves(movesBetween(was, is)) : null
  }

  /** What else the records have, for highlights to look at. */
  async beside(table: TableBeside): Promise<void> {
    await this.pointOut(this.highlights.beside(table))
  }

  /** What is pointed out among the records from now on. */
  async highlight(highlights: readonly Highlight[]): Promise<void> {
    await this.pointOut(this.highlights.show(highlights))
  }

  /** What the highlights come to, or other ones that are tried; null where nothing was decided yet. */
  async toldHighlights(tried: readonly Highlight[] | null = null): Promise<ToldHighlights | null> {
    const told = await this.highlights.told(tried)
    if (told?.isMore) this.listPointedOut()
    return told
  }

  /** The values that highlights can ask for; null where there are none to be listed. */
  highlightChoices(input: string): Promise<CommonValues | null> {
    return this.highlights.choices(input)
  }

  /** Columns may have to be fetched: until they are here, what is known by then is listed. */
  private async pointOut(fetched: Promise<void>): Promise<void> {
    this.listPointedOut()
    await fetched
    this.listPointedOut()
  }

  private listPointedOut(): void {
    if (this.listed.tray.kind === 'highlighted') this.listAnew()
  }

  private placesOf(tray: Tray): Bitmap {
    if (tray.kind === 'highlighted') return this.highlights.placesOf(tray.name, this.records.length)
    if (tray.kind === 'nearest') return bitmapOf(nearestToLabel(this.result!, tray), this.records.length)
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

  /** Of days, and of lengths of time, in days or in months. @param within only this stretch of it. @returns null where the input has nothing that lies along a line */
  spread(input: string, within: readonly [from: number, to: number] | null = null): Spread | null {
    const { ready: { lowered }, on: { table, today } } = this.result!
    const vector = inputColumns(table, lowered, today).input(input)
    if (!vector) return null
    if (vector.kind === 'date') return { histogram: histogram(vector, 1, within), places: 0 }
    if (vector.kind === 'years and months duration') return { histogram: histogram(vector, 1, within), places: 0 }
    if (vector.kind !== 'number') return { histogram: histogram(asDays(vector), 0, within), places: DURATION_PLACES }
    const column = table.columns.get(input)
    const { precision } = lowered.inputs.get(input)!
    const isMeasured = precision.kind === 'as measured'
    const places = !isMeasured ? precision.places : column && 'kind' in column && column.kind === 'number' ? finestPlaces(column) : FIGURE_PLACES
    return { histogram: histogram(vector, 0, within), places }
  }

  /** Of a rule's condition, by the way of each of its parts, how many records it holds for. */
  parts(rule: number): [way: string, records: number][] {
    const condition = this.result?.ready.lowered.rules[rule]?.condition
    return condition ? waysOf(condition).map((way) => [way.join('.'), countBits(this.result!.places({ kind: 'part', rule, way: [...way] }))]) : []
  }

  /** The same of a named condition that the gate carries. */
  partsOfCondition(name: string): [way: string, records: number][] {
    const condition = this.result?.ready.lowered.conditions.get(name)
    return condition ? waysOf(condition).map((way) => [way.join('.'), countBits(this.result!.places({ kind: 'condition', name, way: [...way] }))]) : []
  }

  /** The inputs that would settle held records. */
  missing(): string[] {
    return this.result ? missingOf(this.result) : []
  }

  /** The first record of a tray; null where it is empty. */
  firstIn(tray: Tray): number | null {
    const [first] = this.result ? placesOf(this.placesOf(tray)) : []
    return first === undefined ? null : this.records[first]!
  }

  /** How many records a tray has. */
  count(tray: Tray): number {
    if (!this.result) return 0
    return OF_SESSION.includes(tray.kind) ? countBits(this.placesOf(tray)) : this.result.count(tray)
  }

  /** By named condition that the gate carries, how many records it holds for. */
  conditions(): [name: string, records: number][] {
    return [...(this.result?.ready.lowered.conditions.keys() ?? [])].map((name) => [name, countBits(this.result!.places({ kind: 'condition', name, way: [] }))])
  }

  /** Cuts on an input that its values suggest. @param way a list of cuts is counted as it is. @returns null where it has nothing that lies along a line, and before anything was decided */
  propose(input: string, way: Way | { kind: 'typed'; cuts: string[] }, places: number): ProposedCuts | null {
    if (!this.result) return null
    const { ready: { lowered }, on: { table, today } } = this.result
    const vector = inputColumns(table, lowered, today).input(input)
    if (!vector) return null
    const values = vector.kind === 'days and time duration' ? asDays(vector) : vector
    return way.kind === 'typed' ? { cuts: way.cuts, records: countedCuts(values, way.cuts) } : proposedCuts(values, way, places)
  }

  /** The values that an input has in the table; null where it has numbers, or none at all. */
  choices(input: string): CommonValues | null {
    const column = this.result?.on.table.columns.get(input)
    return column && 'kind' in column && column.kind === 'dictionary' ? commonValues(column, MOST_CHOICES) : null
  }

  /** As many different values of an input as anybody sorts, null where there are none to be counted, as in a column set. */
  values(input: string): CommonValues | null {
    const column = this.result?.on.table.columns.get(input)
    return column && 'kind' in column ? commonValues(column, MOST_SORTED) : null
  }

  /** A first scale on a column that is here. */
  firstScale(name: string, input: Input, column: number): ScaleGate {
    return newScale(name, input, this.columns.get(column)!)
  }

  /** A first side of a grid on a column that is here: cuts on numbers and days, and of anything else its commonest values, a line each. */
  firstSide({ name, type }: Input, id: number): GridSide {
    const column = this.columns.get(id)!
    if (isLineKind(type)) return { kind: 'scale', on: name, cuts: firstCuts(column), floor: null, ceiling: null }
    return { kind: 'list', on: name, folds: false, lines: commonValues(column, MOST_LINES).values.map(({ text }) => [text]) }
  }

  /**
   * @param within records by their numbers, of which alone those of the tray are listed, in this order where there is no other; null for all
   * @returns how many records are listed now
   */
  list(tray: Tray, order: Order, within: Int32Array | null = null): number {
    this.listed = { tray, order, within }
    this.listAnew()
    if (!this.result) return 0
    return within || tray.kind === 'nearest' ? this.listedPlaces().length : this.count(tray)
  }

  private listAnew(): void {
    this.shown = this.places = null
  }

  /** Whether records are listed in the order in which they lie: then those in view are found without the places of all. */
  private isAsItLies(): boolean {
    const { tray, order, within } = this.listed
    return order === null && within === null && tray.kind !== 'nearest'
  }

  /** How many of some records, by their numbers, are in each of these trays. */
  countsWithin(within: Int32Array, trays: readonly Tray[]): number[] {
    return trays.map((tray) => (this.result ? placesAmong(this.records, within, this.placesOf(tray)).length : 0))
  }

  private placesIn(from: number, to: number): Iterable<number> {
    if (!this.isAsItLies()) return (this.places ?? this.listedPlaces()).subarray(from, to)
    this.shown ??= this.placesOf(this.listed.tray)
    return placesBetween(this.shown, from, to)
  }

  private listedPlaces(): Uint32Array {
    const { tray, order, within } = this.listed
    const isNearest = tray.kind === 'nearest' && !within
    const all = isNearest ? nearestToLabel(this.result!, tray) : within ? placesAmong(this.records, within, this.placesOf(tray)) : placesOf(this.placesOf(tray))
    return (this.places = order ? inOrder(all, order.direction, this.columns.get(order.column)!) : all)
  }

  /** The listed records from place `from` up to, not including, `to`. */
  window(from: number, to: number): ListedRecord[] {
    if (!this.result) return []
    return Array.from(this.placesIn(from, to), (at) => listedAt(this.result!, at, this.records[at]!, this.highlights.at(at)))
  }
}

function toldMoves({ moves, stayed }: Moves): ToldMoves {
  return { moves, stayed }
}

/**
 * The places of those of `within` that are shown, in its order. Others that are not here are left out.
 * @param records numbers in rising order
 */
function placesAmong(records: Int32Array, within: Int32Array, shown: Bitmap): Uint32Array {
  const placeOf = new Int32Array((records.at(-1) ?? 0) + 1).fill(NONE)
  records.forEach((record, at) => (placeOf[record] = at))
  const places = new Uint32Array(within.length)
  let found = 0
  for (const record of within) {
    const at = placeOf[record] ?? NONE
    if (at !== NONE && hasBit(shown, at)) places[found++] = at
  }
  return places.subarray(0, found)
}

/** @param records numbers in rising order @returns null where one of those that are wanted is not here */
function placesIn(records: Int32Array, wanted: readonly number[]): number[] | null {
  const places = wanted.map((record) => bisectLeft(records, record))
  return places.every((at, of) => records[at] === wanted[of]) ? places : null
}

/** Lengths of time are counted in seconds elsewhere. */
function asDays(vector: NumberVector): NumberVector {
  return { ...vector, doubles: vector.doubles.map((seconds) => seconds / 86_400) }
}
