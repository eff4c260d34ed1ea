/** What is pointed out among the records of a session: highlights on the result shown, and the columns that they look at beside it. */
import { type Highlight, highlightChoices, type Highlighted, highlighted, highlightGate, type OtherColumn, otherColumns, type Others, othersAsked } from '@dime-gate/core/highlight/highlight'
import type { RulesGate } from '@dime-gate/core/gate/document'
import type { Result } from '@dime-gate/core/result/result'
import { type Bitmap, countBits, emptyBitmap } from '@dime-gate/core/table/bitmap'
import type { CommonValues } from '@dime-gate/core/table/common-values'
import type { Column } from '@dime-gate/core/table/table'
import type { ColumnType } from '@dime-gate/core/value/read-cell'
import type { ColumnAddress } from './column-address'

/** The columns that a table has. @property bound those that stand for inputs of the gate */
export interface TableBeside {
  columns: readonly (ColumnAddress & { name: string; type: ColumnType; unit: string })[]
  bound: readonly number[]
}

/** What highlights can look at, and how many records meet each; null where one cannot be read. */
export interface ToldHighlights {
  gate: RulesGate
  records: (number | null)[]
  /** Columns beside those that the gate looks at, as conditions call them. */
  others: { id: number; name: string }[]
  /** Whether columns came only now: what was listed before may be pointed out otherwise. */
  isMore: boolean
}

/** As many different values as anybody looks through before typing. */
export const MOST_CHOICES = 500

export class SessionHighlights {
  private highlights: readonly Highlight[] = []
  private table: TableBeside = { columns: [], bound: [] }
  private result: Result | null = null
  private others: OtherColumn[] | null = null
  /** What they come to on the result; worked out when it is first asked for. */
  private met: { on: Highlighted; places: Bitmap[] | null } | null = null

  /** @param columns that are here, by id @param open fetches those that are not */
  constructor(private readonly columns: ReadonlyMap<number, Column>, private readonly open: (addresses: readonly ColumnAddress[]) => Promise<void>) {}

  on(result: Result): void {
    this.result = result
    this.others = null
    this.met = null
  }

  async beside(table: TableBeside): Promise<void> {
    this.table = table
    this.others = null
    this.met = null
    await this.fetch(this.highlights)
  }

  async show(highlights: readonly Highlight[]): Promise<void> {
    this.highlights = highlights
    this.met = null
    await this.fetch(highlights)
  }

  /** @param tried others that are counted instead, and not shown @returns null where nothing was decided yet */
  async told(tried: readonly Highlight[] | null): Promise<ToldHighlights | null> {
    const isMore = await this.fetch(tried ?? this.highlights)
    if (!this.result) return null
    const { ready, on: { today } } = this.result
    const on = tried ? highlighted(this.result, tried, this.here()) : this.metOnes().on
    const places = tried ? on.places() : this.places()
    const others = this.all()
    return {
      gate: highlightGate(ready, [], today, others),
      records: on.isRead.map((is, at) => (is ? countBits(places[at]!) : null)),
      others: others.map(({ id, input }) => ({ id, name: input.name })), isMore,
    }
  }

  /** The values that highlights can ask for; null where there are none to be listed. */
  async choices(input: string): Promise<CommonValues | null> {
    const other = this.all().filter((one) => one.input.name === input)
    await this.fetchColumns(other)
    return this.result ? highlightChoices(this.result, input, MOST_CHOICES, this.here()) : null
  }

  /** The records that meet one. */
  placesOf(name: string, length: number): Bitmap {
    return this.places()[this.highlights.findIndex((one) => one.name === name)] ?? emptyBitmap(length)
  }

  /** The highlights that the record at a place meets, in their order. */
  at(place: number): number[] {
    return this.highlights.length === 0 ? [] : this.metOnes().on.at(place)
  }

  /** Those of the columns beside that are here: they change with the table. */
  addresses(): ColumnAddress[] {
    return this.table.columns.filter(({ id }) => this.columns.has(id))
  }

  private all(): OtherColumn[] {
    if (!this.result) return []
    return (this.others ??= otherColumns(this.result.ready, this.result.on.today, this.table.columns, this.table.bound))
  }

  /** What has not come yet cannot be read yet. */
  private here(): Others {
    return { columns: this.all().filter(({ id }) => this.columns.has(id)), columnOf: (id) => this.columns.get(id) }
  }

  private async fetch(highlights: readonly Highlight[]): Promise<boolean> {
    return this.result && highlights.length > 0 ? this.fetchColumns(othersAsked(this.result.ready, this.result.on.today, highlights, this.all())) : false
  }

  private async fetchColumns(others: readonly OtherColumn[]): Promise<boolean> {
    const missing = this.table.columns.filter(({ id }) => others.some((one) => one.id === id) && !this.columns.has(id))
    if (missing.length === 0) return false
    await this.open(missing)
    this.met = null
    return true
  }

  private metOnes(): { on: Highlighted; places: Bitmap[] | null } {
    return (this.met ??= { on: highlighted(this.result!, this.highlights, this.here()), places: null })
  }

  private places(): Bitmap[] {
    const met = this.metOnes()
    return (met.places ??= met.on.places())
  }
}
