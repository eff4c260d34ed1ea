/** Records put into cells: those that are of one class under every group of tests are in one cell, and are decided alike. */
import type { Changed, TestClasses } from './test-classes'
import { type RecordNumbers, roomForNumbers } from './record-numbers'

/** As many cells as there may be without a look at which of them have a record at all. */
export const MOST_UNSEEN = 2 ** 19

interface Level {
  /** How many classes the group has room for. */
  classes: number
  /** The cells of the level before, and the class, by cell, as one number; null where the cell is that number itself. */
  keys: Float64Array | null
}

export interface Cells {
  /** By record its cell. */
  readonly of: RecordNumbers
  readonly count: number
  /** By cell how many records are in it. */
  readonly records: Uint32Array
  readonly levels: readonly Level[]
}

/** Records that are put into cells at once: as many as stay close to the processor while group after group looks at them. */
const AT_ONCE = 2 ** 14
/** Classes that a group may get on top of its own while its cuts move, without a look at all records. */
const SPARE = 16

/** @param moving the group whose cuts are being moved, which is given room for classes to come; null for none */
export function cellsOf(groups: readonly TestClasses[], length: number, moving: number | null = null): Cells {
  const own = groups.map(({ verdicts }) => verdicts.length)
  const roomy = own.map((classes, at) => (at === moving ? classes + SPARE : classes))
  const widths = productOf(roomy) <= MOST_UNSEEN ? roomy : own
  const whole = productOf(widths)
  if (whole <= MOST_UNSEEN) {
    const of = roomForNumbers(whole, length)
    const records = new Uint32Array(whole)
    for (let from = 0; from < length; from += AT_ONCE) {
      const some = of.subarray(from, Math.min(length, from + AT_ONCE))
      for (let at = 0; at < groups.length; at++) groups[at]!.addTo(some, widths[at]!, from)
      count(records, some)
    }
    return { of, count: whole, records, levels: widths.map((classes) => ({ classes, keys: null })) }
  }
  let [cells, of]: [number, RecordNumbers] = [1, new Uint32Array(length)]
  const levels: Level[] = []
  for (const group of groups) {
    const classes = group.verdicts.length
    if (cells * classes <= MOST_UNSEEN) {
      group.addTo(of, classes, 0)
      levels.push({ classes, keys: null })
      cells *= classes
      continue
    }
    const own = new Uint32Array(length)
    group.addTo(own, classes, 0)
    const seen = seenKeys(of, own, classes, length)
    levels.push({ classes, keys: seen.keys })
    ;({ of } = seen)
    cells = seen.keys.length
  }
  const records = new Uint32Array(cells)
  count(records, of)
  return { of, count: cells, records, levels }
}

function productOf(widths: readonly number[]): number {
  return widths.reduce((product, width) => product * width, 1)
}

function count(records: Uint32Array, of: RecordNumbers): void {
  const { length } = of
  for (let at = 0; at < length; at++) records[of[at]!]!++
}

/** Cells for those combinations alone that some record has, in the order in which they are met. */
function seenKeys(before: RecordNumbers, classes: Uint32Array, width: number, length: number): { of: Uint32Array; keys: Float64Array } {
  const of = new Uint32Array(length)
  const keys = new Float64Array(length)
  let size = 1024
  while (size < length * 2) size *= 2
  const slots = new Int32Array(size).fill(-1)
  let count = 0
  for (let at = 0; at < length; at++) {
    const key = before[at]! * width + classes[at]!
    // Two halves of the key, each times an odd number, so that neighbouring keys lie far from each other.
    let slot = ((Math.imul(key | 0, 0x9e3779b1) ^ Math.imul((key / 2 ** 32) | 0, 0x85ebca6b)) >>> 0) & (size - 1)
    for (;;) {
      const cell = slots[slot]!
      if (cell === -1) {
        slots[slot] = count
        keys[count] = key
        of[at] = count++
        break
      }
      if (keys[cell] === key) {
        of[at] = cell
        break
      }
      slot = (slot + 1) & (size - 1)
    }
  }
  return { of, keys: keys.slice(0, count) }
}

/** Writes the classes of a cell's records, one a group. */
export function writeClassesOf({ levels }: Cells, cell: number, classes: Int32Array): void {
  let left = cell
  for (let group = levels.length - 1; group >= 0; group--) {
    const { classes: width, keys } = levels[group]!
    const key = keys ? keys[left]! : left
    classes[group] = key % width
    left = Math.floor(key / width)
  }
}

/** Records that are in another cell than before: for each the cell that it was in, and the one that it is in. */
export interface CellMoves {
  from: Uint32Array
  to: Uint32Array
}

export const NO_MOVES: CellMoves = { from: new Uint32Array(), to: new Uint32Array() }

/** Moves records that are in other classes of one group now, in place. @returns null where it could not: cells that were met by chance have to be met anew */
export function moveRecords({ levels, of, records }: Cells, group: number, { places, steps }: Changed): CellMoves | null {
  if (levels.some(({ keys }) => keys)) return null
  const width = levels.slice(group + 1).reduce((product, { classes }) => product * classes, 1)
  const [from, to] = [new Uint32Array(places.length), new Uint32Array(places.length)]
  for (let index = 0; index < places.length; index++) {
    const at = places[index]!
    from[index] = of[at]!
    of[at] = to[index] = from[index]! + steps[index]! * width
    records[from[index]!]!--
    records[to[index]!]!++
  }
  return { from, to }
}
