/** Sets of places in a space, as boxes: a set of regions on every axis. */
import type { Condition } from '../gate/condition'
import type { Space } from './axes'

/** By axis the regions, as bits in words of 32. */
export type Box = readonly Uint32Array[]

/** A condition that falls into more boxes than this is taken as too intricate to be proven. */
const MOST_BOXES = 400

export function wholeSpace({ axes }: Space): Box {
  return axes.map(({ regions }) => maskOf(regions.map(() => true)))
}

/** The part of the space that is expected at all. */
export function expectedSpace({ axes }: Space): Box {
  return axes.map(({ regions }) => maskOf(regions.map(({ isExpected }) => isExpected)))
}

function maskOf(bits: readonly boolean[]): Uint32Array {
  const mask = new Uint32Array((bits.length + 31) >>> 5)
  bits.forEach((bit, at) => {
    if (bit) mask[at >>> 5]! |= 1 << (at & 31)
  })
  return mask
}

/** Where a condition is true, as boxes that together are all of it; null where they would be too many. */
export function boxesOf(condition: Condition, space: Space): Box[] | null {
  const whole = wholeSpace(space)
  const visit = (at: Condition, isWanted: boolean): Box[] | null => {
    switch (at.kind) {
      case 'test': {
        const { axis, isTrue } = space.places.get(at.text)!
        const mask = maskOf(isTrue.map((verdict) => verdict === isWanted))
        return isNothing(mask) ? [] : [whole.with(axis, mask)]
      }
      case 'not':
        return visit(at.of, !isWanted)
      default: {
        const parts = at.of.map((part) => visit(part, isWanted))
        if (parts.includes(null)) return null
        return (at.kind === 'all') === isWanted ? crossed(parts as Box[][], whole) : joined(parts as Box[][])
      }
    }
  }
  return visit(condition, true)
}

function joined(parts: Box[][]): Box[] | null {
  const boxes = parts.flat()
  return boxes.length > MOST_BOXES ? null : boxes
}

function crossed(parts: Box[][], whole: Box): Box[] | null {
  let boxes: Box[] = [whole]
  for (const part of parts) {
    const pairs = boxes.flatMap((box) => part.map((other) => intersection(box, other)))
    boxes = pairs.filter((box) => box !== null)
    if (boxes.length > MOST_BOXES) return null
  }
  return boxes
}

function isNothing(mask: Uint32Array): boolean {
  for (const word of mask) if (word !== 0) return false
  return true
}

export function doMeet(a: Box, b: Box): boolean {
  for (let axis = 0; axis < a.length; axis++) {
    const [left, right] = [a[axis]!, b[axis]!]
    let shared = 0
    for (let i = 0; i < left.length && shared === 0; i++) shared = left[i]! & right[i]!
    if (shared === 0) return false
  }
  return true
}

/** Null where the two have nothing in common. */
export function intersection(a: Box, b: Box): Box | null {
  if (!doMeet(a, b)) return null
  return a.map((mask, axis) => mask.map((word, i) => word & b[axis]![i]!))
}

/** `box` less `out`, as boxes that do not overlap. */
export function difference(box: Box, out: Box): Box[] {
  const pieces: Box[] = []
  let rest = box
  for (let axis = 0; axis < box.length; axis++) {
    const outside = rest[axis]!.map((word, i) => word & ~out[axis]![i]!)
    if (isNothing(outside)) continue
    pieces.push(rest.with(axis, outside))
    const inside = rest[axis]!.map((word, i) => word & out[axis]![i]!)
    if (isNothing(inside)) return pieces
    rest = rest.with(axis, inside)
  }
  return pieces
}

/** The regions of a mask, ascending. */
export function regionsIn(mask: Uint32Array): number[] {
  const regions: number[] = []
  mask.forEach((word, i) => {
    for (let left = word; left !== 0; left &= left - 1) regions.push(i * 32 + 31 - Math.clz32(left & -left))
  })
  return regions
}

/** One place of a box: its first region on every axis. */
export function firstPlace(box: Box): number[] {
  return box.map((mask) => regionsIn(mask)[0]!)
}

export function isIn(box: Box, place: readonly number[]): boolean {
  return place.every((region, axis) => (box[axis]![region >>> 5]! >>> (region & 31)) & 1)
}
