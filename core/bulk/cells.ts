/** Records put into cells: those that are of one class under every group of tests are in one cell, and are decided alike. */
import type { Changed } from './subject-classes'
import type { TestClasses } from './test-classes'
import { type RecordNumbers, roomForNumbers } from './thresholds'

/** As many cells as there may be without a look at which of them have a record at all. */
const MOST_UNSEEN = 2 ** 18

interface Level {
  /** How many classes the group has. */
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

export function cellsOf(groups: readonly TestClasses[], length: number): Cells {
  const whole = groups.reduce((product, { verdicts }) => product * verdicts.length, 1)
  if (whole <= MOST_UNSEEN) {
    const of = roomForNumbers(whole, length)
    for (const group of groups) group.addTo(of)
    return { of, count: whole, records: recordsIn(of, whole), levels: groups.map(({ verdicts }) => ({ classes: verdicts.length, keys: null })) }
  }
  let [count, of]: [number, RecordNumbers] = [1, new Uint32Array(length)]
  const levels: Level[] = []
  for (const group of groups) {
    const classes = group.verdicts.length
    if (count * classes <= MOST_UNSEEN) {
      group.addTo(of)
      levels.push({ classes, keys: null })
      count *= classes
      continue
    }
    const own = new Uint32Array(length)
    group.addTo(own)
    const seen = seenKeys(of, own, classes, length)
    levels.push({ classes, keys: seen.keys })
    ;({ of } = seen)
    count = seen.keys.length
  }
  return { of, count, records: recordsIn(of, count), levels }
}

function recordsIn(of: RecordNumbers, count: number): Uint32Array {
  const records = new Uint32Array(count)
  const { length } = of
  for (let at = 0; at < length; at++) records[of[at]!]!++
  return records
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

/** Moves records that are in other classes of one group now, in place. @returns whether it could: not where cells would have to be met anew */
export function moveRecords({ levels, of, records }: Cells, group: number, { places, steps }: Changed): boolean {
  if (levels.some(({ keys }) => keys)) return false
  const width = levels.slice(group + 1).reduce((product, { classes }) => product * classes, 1)
  for (let index = 0; index < places.length; index++) {
    const [at, step] = [places[index]!, steps[index]! * width]
    const cell = of[at]!
    records[cell]!--
    records[cell + step]!++
    of[at] = cell + step
  }
  return true
}
