/** Two ways of labelling the same records, side by side: gates, versions of gates, or a column that was entered by hand. */
import { gatesAsked, tablesAsked } from '@dime-gate/contract/question'
import type { GateProblem } from '@dime-gate/core/gate/gate-problem'
import { resultMaker } from '@dime-gate/core/result/make-results'
import type { ListedRecord } from '@dime-gate/core/result/listed-record'
import { isOnlyWriting, landedBy, landedIn, type Landed, type Landing, landingName, type Move, type Moves, movesOf } from '@dime-gate/core/result/moves'
import type { Result } from '@dime-gate/core/result/result'
import { NONE, STATUSES } from '@dime-gate/core/rule/rules'
import { placesOf } from '@dime-gate/core/table/bitmap'
import { parseDate } from '@dime-gate/core/value/temporal'
import type { Asked, Session } from '../records/session'

export type Side = { kind: 'gate'; asked: Asked } | { kind: 'column'; column: number }

export interface Compared {
  records: number
  agreed: number
  /** Records that differ only in how the label is written. */
  written: number
  /** What differs in more than writing, the most first; and what does not. */
  moves: Move[]
  writings: Move[]
}

export type Comparing = { compared: Compared } | { problems: GateProblem[]; side: number } | { tooMany: number }

/** What one side makes of a record. @property rule from the first on, 0 and up; null where none decided */
export interface SideOfRecord {
  landing: Landing
  rule: number | null
  isOtherwise: boolean
}

export class Sides {
  private results: (Result | null)[] = []
  private landed: Landed[] = []
  private moves: Moves | null = null
  private places: Uint32Array = new Uint32Array()
  private records: Int32Array = new Int32Array()

  /** @param session with the columns of both sides */
  compare(session: Session, sides: readonly [Side, Side]): Comparing {
    return session.withColumns((records, columnOf): Comparing => {
      this.records = records
      this.results = []
      this.landed = []
      for (const [at, side] of sides.entries()) {
        if (side.kind === 'column') {
          const landed = landedBy(columnOf(side.column))
          if (!landed) return { tooMany: at }
          this.results.push(null)
          this.landed.push(landed)
          continue
        }
        const { asked } = side
        const ready = gatesAsked(asked)
        if ('problems' in ready) return { problems: ready.problems, side: at }
        const result = resultMaker(tablesAsked(asked, records.length, columnOf), parseDate(asked.asOf)!)(ready.gates)
        this.results.push(result)
        this.landed.push(landedIn(result))
      }
      this.moves = movesOf(this.landed[0]!, this.landed[1]!)
      const [writings, moves] = [this.moves.moves.filter(isOnlyWriting), this.moves.moves.filter((move) => !isOnlyWriting(move))]
      return { compared: { records: records.length, agreed: this.moves.stayed, written: writings.reduce((sum, move) => sum + move.records, 0), moves, writings } }
    })
  }

  /** Records of a move, or with null all that differ in more than writing. @returns how many */
  list(move: { from: string; to: string } | null): number {
    const { moves } = this
    if (!moves) return 0
    const shown = moves.moves.filter((one) => (move ? landingName(one.from) === move.from && landingName(one.to) === move.to : !isOnlyWriting(one)))
    const all = shown.map(({ from, to }) => placesOf(moves.places(from, to)))
    this.places = Uint32Array.from(all.flatMap((places) => [...places])).sort()
    return this.places.length
  }

  /** As a list shows them: with the second side's label, and the first side's beside it. */
  window(from: number, to: number): ListedRecord[] {
    return Array.from(this.places.subarray(from, to), (at): ListedRecord => {
      const [first, second] = [this.landingAt(0, at), this.landingAt(1, at)]
      const status = second.kind === 'label' ? 'labelled' : second.kind === 'blank' ? 'unplaced' : STATUSES.find((one) => one === second.kind)!
      return { record: this.records[at]!, status, rule: NONE, label: second.kind === 'label' ? second.label : null, reasons: this.results[1]?.reasons(at) ?? [], computed: [first.kind === 'label' ? first.label : first.kind], highlights: [] }
    })
  }

  /** What each side makes of a record, and by which rule. */
  sidesOf(record: number): SideOfRecord[] {
    const at = this.records.indexOf(record)
    return this.results.map((result, side) => {
      const { rule = NONE, status } = result?.decisions.at(at) ?? {}
      return { landing: this.landingAt(side, at), rule: rule === NONE ? null : rule, isOtherwise: status === 'otherwise' }
    })
  }

  private landingAt(side: number, at: number): Landing {
    const { landings, codes } = this.landed[side]!
    return landings[codes[at]!]!
  }
}
