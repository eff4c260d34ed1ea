/** Records put into cells: those that are of one class under every group of tests are in one cell, and are decided alike. */
import type { TestClasses } from './test-classes'
import { type ClassNumbers, roomForClasses } from './thresholds'

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
  readonly of: ClassNumbers
  readonly count: number
  /** By cell how many records are in it. */
  readonly records: Uint32Array
  readonly levels: readonly Level[]
}

export function cellsOf(groups: readonly TestClasses[], length: number): Cells {
  let count = 1
  let of: ClassNumbers = new Uint8Array(length)
  const levels: Level[] = []
  for (const { classes, verdicts } of groups) {
    const width = verdicts.length
    const reach = count * width
    const isDense = reach <= MOST_UNSEEN
    const seen: { of: Uint32Array; keys: Float64Array } | null = isDense ? null : seenKeys(of, classes, width, length)
    const next: ClassNumbers = seen?.of ?? roomForClasses(reach, length)
    if (isDense && count === 1) next.set(classes)
    else if (isDense) for (let at = 0; at < length; at++) next[at] = of[at]! * width + classes[at]!
    levels.push({ classes: width, keys: seen?.keys ?? null })
    of = next
    count = seen?.keys.length ?? reach
  }
  const records = new Uint32Array(count)
  for (let at = 0; at < length; at++) records[of[at]!]!++
  return { of, count, records, levels }
}

/** Cells for those combinations alone that some record has, in the order in which they are met. */
function seenKeys(before: ClassNumbers, classes: ClassNumbers, width: number, length: number): { of: Uint32Array; keys: Float64Array } {
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

/** The same after some records have other classes under one group; null where cells would have to be met anew. */
export function movedCells(cells: Cells, group: number, before: ClassNumbers, after: ClassNumbers, changed: Int32Array): Cells | null {
  if (cells.levels.some(({ keys }) => keys)) return null
  const step = cells.levels.slice(group + 1).reduce((product, { classes }) => product * classes, 1)
  const [of, records] = [cells.of.slice(), cells.records.slice()]
  for (const at of changed) {
    const cell = of[at]!
    const next = cell + (after[at]! - before[at]!) * step
    records[cell]!--
    records[next]!++
    of[at] = next
  }
  return { ...cells, of, records }
}
