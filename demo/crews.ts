/** The office's own climbers, with when they started. One of them has 7 years, 11 months and 20 days at the demo's as-of date. */
import { chance, dayFromAsOf } from './chance'
import { inventedNames } from './invented-names'

export const CREW_COLUMNS = ['Name', 'Started', 'Chainsaw ticket', 'Base']

const CREW = 38
const BASES = ['Quay depot', 'Hill yard', 'Nursery']
const NEARLY_EIGHT_YEARS = '2018-03-10'
const THAT_ONE = 12

export function* crews(seed = 38): Generator<string[]> {
  const luck = chance(seed)
  let number = 0
  for (const name of inventedNames(CREW, luck)) {
    const started = dayFromAsOf(-luck.whole(60, 365 * 22))
    yield [name, ++number === THAT_ONE ? NEARLY_EIGHT_YEARS : started, luck.share() < 0.7 ? 'yes' : 'no', luck.one(BASES)]
  }
}
