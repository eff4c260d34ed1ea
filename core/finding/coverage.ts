/** What a row of rules leaves over, found by taking one box after the other away. */
import { type Box, difference, doMeet, intersection } from './box'

/** A rule as boxes; together they are where it is true. */
export type RuleBoxes = readonly Box[]

/** Work that may be done before an answer is given up: looks of one box at another. */
export interface Budget {
  left: number
}

export class BudgetSpent extends Error {}

function spend(budget: Budget): void {
  if (--budget.left < 0) throw new BudgetSpent()
}

/**
 * Goes through the parts of `box` that none of `rules` takes.
 * @param visit is given each part, and may end the search by answering true
 * @returns whether it was ended so
 * @throws BudgetSpent
 */
export function visitLeft(box: Box, rules: readonly RuleBoxes[], budget: Budget, visit: (left: Box) => boolean): boolean {
  return visitOutside(box, rules.flat(), 0, budget, visit)
}

function visitOutside(box: Box, boxes: readonly Box[], from: number, budget: Budget, visit: (left: Box) => boolean): boolean {
  for (let at = from; at < boxes.length; at++) {
    spend(budget)
    if (!doMeet(box, boxes[at]!)) continue
    return difference(box, boxes[at]!).some((piece) => visitOutside(piece, boxes, at + 1, budget, visit))
  }
  return visit(box)
}

/** The part of `box` that a rule takes, box by box, without overlaps. */
export function* takenBy(box: Box, rule: RuleBoxes): Generator<Box> {
  let rest: Box[] = [box]
  for (const one of rule) {
    for (const piece of rest) {
      const taken = intersection(piece, one)
      if (taken) yield taken
    }
    rest = rest.flatMap((piece) => (doMeet(piece, one) ? difference(piece, one) : [piece]))
  }
}
