/**
 * Changes of a condition's tree. A part is found by its way: the places of its groups from the top down. Every change gives a
 * whole condition, so that there is nothing half made: a group comes into being with its second part, and goes with its last but one.
 */
import { ALWAYS, type Condition, conditionOf, conditionText } from './condition'
import { nameNode } from './literal'

/** Places from the top down; what a `not` holds is at place 0 of it. */
export type Way = readonly number[]

/** The ways to all parts of a condition, the whole first. */
export function waysOf(condition: Condition, way: Way = []): Way[] {
  return [way, ...partsOf(condition).flatMap((part, place) => waysOf(part, [...way, place]))]
}

/** @returns undefined where the way leads nowhere */
export function partAt(condition: Condition, way: Way): Condition | undefined {
  const [place, ...rest] = way
  if (place === undefined) return condition
  const part = partsOf(condition)[place]
  return part && partAt(part, rest)
}

/** The condition with another part in place of the one at `way`; with null without it. */
export function withPart(condition: Condition, way: Way, part: Condition | null): Condition {
  return replaced(condition, way, part) ?? ALWAYS
}

function replaced(condition: Condition, [place, ...rest]: Way, part: Condition | null): Condition | null {
  if (place === undefined) return part
  const before = partsOf(condition)[place]
  if (!before) return condition
  const now = replaced(before, rest, part)
  if (condition.kind === 'not') return now && { kind: 'not', of: now }
  if (condition.kind === 'test') return condition
  const of = now ? condition.of.with(place, now) : condition.of.toSpliced(place, 1)
  return of.length === 1 ? of[0]! : of.length === 0 ? null : { ...condition, of }
}

/** One more part beside the one at `way`, which has to hold too (`all`), or which may hold instead (`any`). */
export function withAnother(condition: Condition, way: Way, kind: 'all' | 'any', part: Condition): Condition {
  const at = partAt(condition, way)
  if (!at || isEverything(condition)) return part
  const above = way.slice(0, -1)
  const group = way.length > 0 ? partAt(condition, above) : undefined
  if (group?.kind === kind) return withPart(condition, above, { kind, of: group.of.toSpliced(way.at(-1)! + 1, 0, part) })
  const joined: Condition = at.kind === kind ? { kind, of: [...at.of, part] } : { kind, of: [at, part] }
  return withPart(condition, way, joined)
}

/** A part that has to hold becomes one that must not, and the other way about. */
export function withNot(condition: Condition, way: Way): Condition {
  const at = partAt(condition, way)
  return at ? withPart(condition, way, at.kind === 'not' ? at.of : { kind: 'not', of: at }) : condition
}

/** Whether all parts of a group have to hold, or any one. */
export function withKind(condition: Condition, way: Way, kind: 'all' | 'any'): Condition {
  const at = partAt(condition, way)
  return at?.kind === 'all' || at?.kind === 'any' ? withPart(condition, way, { ...at, kind }) : condition
}

/** A part among its neighbours, so many places further on; it stays within its group. */
export function withPartMoved(condition: Condition, way: Way, by: number): Condition {
  const above = way.slice(0, -1)
  const group = way.length > 0 ? partAt(condition, above) : undefined
  if (group?.kind !== 'all' && group?.kind !== 'any') return condition
  const from = way.at(-1)!
  const to = Math.min(Math.max(0, from + by), group.of.length - 1)
  return withPart(condition, above, { ...group, of: group.of.toSpliced(from, 1).toSpliced(to, 0, group.of[from]!) })
}

/** A part lifted out of its group, behind it. */
export function withPartLifted(condition: Condition, way: Way): Condition {
  const part = partAt(condition, way)
  const above = way.slice(0, -1)
  const group = partAt(condition, above.slice(0, -1))
  if (!part || above.length === 0 || (group?.kind !== 'all' && group?.kind !== 'any')) return condition
  const place = above.at(-1)!
  const left = replaced(condition, way, null)
  const without = left && partAt(left, above.slice(0, -1))
  if (!left || (without?.kind !== 'all' && without?.kind !== 'any')) return condition
  return withPart(left, above.slice(0, -1), { ...without, of: without.of.toSpliced(place + 1, 0, part) })
}

/** A part by itself, as a text, and the whole with a name in its place; null where the way leads nowhere. */
export function takenOut(condition: Condition, way: Way): { feel: string; withName: (name: string) => string } | null {
  const part = partAt(condition, way)
  return part ? { feel: conditionText(part), withName: (name) => conditionText(withPart(condition, way, conditionOf(nameNode(name)))) } : null
}

/** Whether it takes every record, as a condition does that nobody has written yet. */
export function isEverything(condition: Condition): boolean {
  return condition.kind === 'all' && condition.of.length === 0
}

function partsOf(condition: Condition): readonly Condition[] {
  return condition.kind === 'test' ? [] : condition.kind === 'not' ? [condition.of] : condition.of
}
