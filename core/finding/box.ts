/** Sets of places in a space, as boxes: a set of regions on every axis. */
import type { Condition } from '../rule/condition'
import type { Space } from '../rule/axes'

/** The regions of every axis as bits, one axis after the other, each from a word of its own on. */
export type Box = Uint32Array

/** Where each axis' words begin in a box; the last entry is where they end. */
export type Layout = readonly number[]

/** A condition that falls into more boxes than this is taken as too intricate to be proven. */
const MOST_BOXES = 400

export function layoutOf({ axes }: Space): Layout {
  const layout = [0]
  for (const { regions } of axes) layout.push(layout.at(-1)! + ((regions.length + 31) >>> 5))
  return layout
}

/** The box of all regions for which `holds` is true, axis by axis. */
export function boxWhere(space: Space, holds: (axis: number, region: number) => boolean): Box {
  const layout = layoutOf(space)
  const box = new Uint32Array(layout.at(-1)!)
  space.axes.forEach(({ regions }, axis) => regions.forEach((_, region) => {
    if (holds(axis, region)) box[layout[axis]! + (region >>> 5)]! |= 1 << (region & 31)
  }))
  return box
}

/** Tells where conditions are true, as boxes that together are all of it; null where they would be too many. */
export function boxReader(space: Space, layout: Layout): (condition: Condition) => Box[] | null {
  const whole = boxWhere(space, () => true)
  const known = new Map<string, Box>()
  const boxOf = (text: string, isWanted: boolean): Box => {
    const key = `${isWanted} ${text}`
    const { axis, isTrue } = space.places.get(text)!
    if (!known.has(key)) known.set(key, boxWhere(space, (other, region) => other !== axis || isTrue[region] === isWanted))
    return known.get(key)!
  }
  const visit = (at: Condition, isWanted: boolean): Box[] | null => {
    switch (at.kind) {
      case 'test': {
        return space.places.get(at.text)!.isTrue.includes(isWanted) ? [boxOf(at.text, isWanted)] : []
      }
      case 'not':
        return visit(at.of, !isWanted)
      default: {
        const parts = at.of.map((part) => visit(part, isWanted))
        if (parts.includes(null)) return null
        return (at.kind === 'all') === isWanted ? crossed(parts as Box[][], whole, layout) : joined(parts as Box[][])
      }
    }
  }
  return (condition) => visit(condition, true)
}

function joined(parts: Box[][]): Box[] | null {
  const boxes = parts.flat()
  return boxes.length > MOST_BOXES ? null : boxes
}

function crossed(parts: Box[][], whole: Box, layout: Layout): Box[] | null {
  let boxes = [whole]
  for (const part of parts) {
    const pairs = boxes.flatMap((box) => part.map((other) => intersection(box, other, layout)))
    boxes = pairs.filter((box) => box !== null)
    if (boxes.length > MOST_BOXES) return null
  }
  return boxes
}

/** On how many axes `box` reaches beyond `other`: 0 where it lies within; -1 where the two have nothing in common. */
export function axesBeyond(box: Box, other: Box, layout: Layout): number {
  let beyond = 0
  for (let axis = 0, i = 0; axis < layout.length - 1; axis++) {
    let [shared, outside] = [0, 0]
    for (const end = layout[axis + 1]!; i < end; i++) {
      shared |= box[i]! & other[i]!
      outside |= box[i]! & ~other[i]!
    }
    if (shared === 0) return -1
    if (outside !== 0) beyond++
  }
  return beyond
}

/** Null where the two have nothing in common. */
export function intersection(a: Box, b: Box, layout: Layout): Box | null {
  return axesBeyond(a, b, layout) < 0 ? null : a.map((word, i) => word & b[i]!)
}

/** `box` less `out`, which it meets, as boxes that do not overlap. */
export function difference(box: Box, out: Box, layout: Layout): Box[] {
  const pieces: Box[] = []
  const rest = box.slice()
  for (let axis = 0; axis < layout.length - 1; axis++) {
    let isBeyond = false
    for (let i = layout[axis]!; i < layout[axis + 1]!; i++) isBeyond ||= (rest[i]! & ~out[i]!) !== 0
    if (!isBeyond) continue
    const piece = rest.slice()
    for (let i = layout[axis]!; i < layout[axis + 1]!; i++) {
      piece[i]! &= ~out[i]!
      rest[i]! &= out[i]!
    }
    pieces.push(piece)
  }
  return pieces
}

/** Boxes that do not overlap less others, as boxes that do not overlap. */
export function differences(boxes: readonly Box[], outs: readonly Box[], layout: Layout): Box[] {
  return outs.reduce<Box[]>((rest, out) => rest.flatMap((box) => (axesBeyond(box, out, layout) < 0 ? [box] : difference(box, out, layout))), [...boxes])
}

/** The same places in fewer boxes: those that differ along one axis alone become one. */
export function merged(boxes: readonly Box[], layout: Layout): Box[] {
  let left = [...boxes]
  for (let axis = 0, unchanged = 0; unchanged < layout.length - 1; axis = (axis + 1) % (layout.length - 1)) {
    const alike = new Map<string, Box>()
    for (const box of left) {
      const key = withRegions(box, axis, [], layout).join()
      const other = alike.get(key)
      alike.set(key, other ? other.map((word, i) => word | box[i]!) : box)
    }
    unchanged = alike.size === left.length ? unchanged + 1 : 1
    left = [...alike.values()]
  }
  return left
}

/** A box with other regions on one axis. */
export function withRegions(box: Box, axis: number, regions: readonly number[], layout: Layout): Box {
  const changed = box.slice().fill(0, layout[axis]!, layout[axis + 1]!)
  for (const region of regions) changed[layout[axis]! + (region >>> 5)]! |= 1 << (region & 31)
  return changed
}

/** The regions of one axis, ascending. */
export function regionsIn(box: Box, axis: number, layout: Layout): number[] {
  const regions: number[] = []
  for (let i = layout[axis]!; i < layout[axis + 1]!; i++) {
    for (let left = box[i]!; left !== 0; left &= left - 1) regions.push((i - layout[axis]!) * 32 + 31 - Math.clz32(left & -left))
  }
  return regions
}

/** By axis the regions of a box. */
export function choicesIn(box: Box, layout: Layout): number[][] {
  return layout.slice(1).map((_, axis) => regionsIn(box, axis, layout))
}

export function isIn(box: Box, place: readonly number[], layout: Layout): boolean {
  for (let axis = 0; axis < place.length; axis++) {
    if (!hasRegion(box, axis, place[axis]!, layout)) return false
  }
  return true
}

export function hasRegion(box: Box, axis: number, region: number, layout: Layout): boolean {
  return ((box[layout[axis]! + (region >>> 5)]! >>> (region & 31)) & 1) !== 0
}
