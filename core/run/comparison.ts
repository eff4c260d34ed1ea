/** Two results on the same records: who moved from where to where. */
import { type Bitmap, countBits } from '../table/bitmap'
import { type LabelTray, type TrayKey, trayName } from './trays'

export interface Move {
  from: TrayKey
  to: TrayKey
  places: Bitmap
  records: number
}

export interface Comparison {
  /** Pairs that any record made, those that stayed included, in the order of the trays. */
  moves: Move[]
  /** Records that are in another tray than before. */
  changed: number
}

/** @param before @param after trays over the same records, each record in exactly one of either */
export function compareTrays(before: readonly LabelTray[], after: readonly LabelTray[]): Comparison {
  const moves = before.flatMap((from) => after.flatMap((to): Move[] => {
    const places = { length: from.places.length, words: from.places.words.map((word, i) => word & to.places.words[i]!) }
    const records = countBits(places)
    return records === 0 ? [] : [{ from: from.key, to: to.key, places, records }]
  }))
  const changed = moves.filter(({ from, to }) => trayName(from) !== trayName(to)).reduce((sum, { records }) => sum + records, 0)
  return { moves, changed }
}
