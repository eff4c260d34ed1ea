/** The members of a column set, or those that a test of each by itself leaves. */
import type { Node, NodeOf } from '../expression/tree'
import { simpleTest } from '../rule/simple-test'
import { emptyBitmap, fullBitmap, hasBit, setBit } from '../table/bitmap'
import { isNumber } from '../value/value'
import { stretchOf } from './thresholds'
import { NONE_INEXACT, type NumberVector, type VectorSources } from './vector'

interface Filtered {
  members: readonly NumberVector[]
  isLeft(double: number): boolean
  /** The one stretch that is left; null where it is more than one. */
  stretch: readonly [from: number, to: number] | null
}

/** A column set of which a test of each member by itself leaves some. */
function filteredSet(node: NodeOf<'filter'>, sources: VectorSources): Filtered | null {
  const members = node.of.kind === 'name' ? sources.members(node.of.name) : null
  const simple = members && simpleTest(node.by, sources.today)
  const isOfItems = simple?.subject.kind === 'name' && simple.subject.name === 'item' && simple.pieces.every(({ low, high }) => [low, high].every((end) => end === null || isNumber(end)))
  if (!members || !isOfItems || members.some(({ errors, inexact }) => errors || inexact.size > 0)) return null
  const stretches = simple.pieces.map((piece) => stretchOf(piece))
  const [only] = stretches
  return {
    members, stretch: only && stretches.length === 1 && !simple.isNegated ? only : null,
    isLeft: (double) => stretches.some(([from, to]) => double >= from && double < to) !== simple.isNegated,
  }
}

/** A column set, or what is left of it. */
export function membersOf(node: Node, sources: VectorSources): readonly NumberVector[] | null {
  if (node.kind === 'name') return sources.members(node.name)
  const filtered = node.kind === 'filter' ? filteredSet(node, sources) : null
  return filtered && filtered.members.map((member) => {
    const valid = emptyBitmap(member.length)
    for (let at = 0; at < member.length; at++) if (hasBit(member.valid, at) && filtered.isLeft(member.doubles[at]!)) setBit(valid, at)
    return { ...member, valid }
  })
}

/** `count(Set[item >= 3])`, without a set of what is left. */
export function countWhere(node: NodeOf<'filter'>, sources: VectorSources): NumberVector | null {
  const filtered = filteredSet(node, sources)
  if (!filtered?.stretch) return null
  const { length } = sources
  const counts = new Float64Array(length)
  for (const member of filtered.members) addWithin(counts, member, ...filtered.stretch)
  return { length, kind: 'number', doubles: counts, errors: null, valid: fullBitmap(length), inexact: NONE_INEXACT }
}

function addWithin(counts: Float64Array, member: NumberVector, from: number, to: number): void {
  const doubles = withoutMissing(member)
  const { length } = counts
  if (to === Infinity) for (let at = 0; at < length; at++) counts[at]! += Number(doubles[at]! >= from)
  else for (let at = 0; at < length; at++) counts[at]! += Number(doubles[at]! >= from) & Number(doubles[at]! < to)
}

const known = new WeakMap<Float64Array, Float64Array>()

/** The doubles, with what is like no number where there is none: made once for all that is counted of them. */
function withoutMissing({ doubles, valid: { words } }: NumberVector): Float64Array {
  const made = known.get(doubles) ?? doubles.map((double, at) => (((words[at >>> 5]! >>> (at & 31)) & 1) === 1 ? double : NaN))
  known.set(doubles, made)
  return made
}
