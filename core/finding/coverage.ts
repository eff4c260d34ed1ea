/** What a row of rules leaves over, found by taking one box after the other away. */
import { axesBeyond, type Box, choicesIn, difference, isIn, type Layout } from './box'

/** A rule as boxes; together they are where it is true. */
export type RuleBoxes = readonly Box[]

/** Work that may be done before an answer is given up: looks of one box at another. */
export interface Budget {
  left: number
}

export class BudgetSpent extends Error {}

/**
 * Goes through the parts of `box` that none of `boxes` takes.
 * @param visit is given each part, and may end the search by answering true
 * @param use is told of each of `boxes` that took something away
 * @returns whether it was ended so
 * @throws BudgetSpent
 */
export function visitLeft(box: Box, boxes: readonly Box[], layout: Layout, budget: Budget, visit: (left: Box) => boolean, use?: (box: Box) => void): boolean {
  budget.left -= boxes.length + 1
  if (budget.left < 0) throw new BudgetSpent()
  const meeting: Box[] = []
  // What covers most comes first: a box that reaches less far on one axis alone leaves one part, and no choice.
  let [best, least] = [0, Infinity]
  for (const other of boxes) {
    const beyond = axesBeyond(box, other, layout)
    if (beyond === 0) {
      use?.(other)
      return false
    }
    if (beyond < 0) continue
    if (beyond < least) [best, least] = [meeting.length, beyond]
    meeting.push(other)
  }
  const [out] = meeting.splice(best, 1)
  if (!out) return visit(box)
  use?.(out)
  return difference(box, out, layout).some((piece) => visitLeft(piece, meeting, layout, budget, visit, use))
}

/** The part of `box` that a rule takes, box by box, without overlaps. */
export function takenBy(box: Box, rule: RuleBoxes, layout: Layout): Box[] {
  const taken: Box[] = []
  let rest = [box]
  for (const one of rule) {
    const meets = (piece: Box) => axesBeyond(piece, one, layout) >= 0
    taken.push(...rest.filter(meets).map((piece) => piece.map((word, i) => word & one[i]!)))
    rest = rest.flatMap((piece) => (meets(piece) ? difference(piece, one, layout) : [piece]))
  }
  return taken
}

/** Whether `test` is true of one of some places of a box, picked at random but the same on every run: a cheap look before a thorough one. */
export function isSomePlace(box: Box, layout: Layout, count: number, test: (place: number[]) => boolean): boolean {
  const choices = choicesIn(box, layout)
  let state = 1
  for (let at = 0; at < count; at++) {
    const place = choices.map((regions) => {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0
      return regions[Math.floor((state / 2 ** 32) * regions.length)]!
    })
    if (test(place)) return true
  }
  return false
}

/** The first of the rules from `from` up to, not including, `to` that is true at a place; -1 where none is. */
export function firstRuleAt(rules: readonly (RuleBoxes | null)[], from: number, to: number, place: readonly number[], layout: Layout): number {
  for (let rule = from; rule < to; rule++) {
    const boxes = rules[rule]
    if (!boxes) continue
    for (const box of boxes) if (isIn(box, place, layout)) return rule
  }
  return -1
}
