/** A gate that cannot be written in a format, in words that say what to do. */
export class GateError extends Error {}

/** What one gate may be long inside another, which looks at it many times over; in UTF-16 units. */
const LONGEST_WITHIN = 200_000

/** @throws GateError where a gate that another uses would make that one too long to be of use */
export function checkWithin(gate: string, text: string): void {
  if (text.length > LONGEST_WITHIN) throw new GateError(`“${gate}” becomes ${text.length} characters long, too many to stand inside another gate. Write both by themselves, and let the second look at the first one's column.`)
}
