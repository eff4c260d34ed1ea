/** What held records wait for. */
import { placesOf } from '../table/bitmap'
import type { Result } from './result'

/** Rules that are walked in all: deciding a record by itself takes a while, the longer the more rules there are. */
const WALKED = 1500
const [LEAST, MOST] = [8, 400]

/** The inputs that would settle held records, the most wanted first, as some of those records tell, spread over all of them. */
export function missingOf(result: Result): string[] {
  const held = placesOf(result.decisions.having(['held']))
  const most = Math.min(MOST, Math.max(LEAST, Math.floor(WALKED / result.ready.lowered.rules.length)))
  const asked = Math.min(most, held.length)
  const wanted = new Map<string, number>()
  for (let nth = 0; nth < asked; nth++) {
    const at = held[Math.floor((nth * held.length) / asked)]!
    for (const name of result.why(at).decision.missing) wanted.set(name, (wanted.get(name) ?? 0) + 1)
  }
  return [...wanted].toSorted(([, a], [, b]) => b - a).map(([name]) => name)
}
