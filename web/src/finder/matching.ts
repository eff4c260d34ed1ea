/** How well a text is what somebody looks for: forgiving of case, accents, order, and a slip of the finger. */

/** @returns the higher the better; null where a word that is looked for is not in the text */
export function matchOf(sought: string, text: string): number | null {
  const words = wordsOf(text)
  let sum = 0
  for (const wanted of wordsOf(sought)) {
    const best = Math.max(0, ...words.map((word, at) => likeness(wanted, word) + (at === 0 ? 0.1 : 0)).filter((like) => like >= 1))
    if (best === 0) return null
    sum += best
  }
  // Of two that match alike the shorter is meant.
  return sum - text.length / 1000
}

export function wordsOf(text: string): string[] {
  const plain = text.normalize('NFD').replace(/\p{M}+/gu, '').toLowerCase()
  return plain.match(/[\p{L}\p{N}]+/gu) ?? []
}

function likeness(wanted: string, word: string): number {
  if (word === wanted) return 4
  if (word.startsWith(wanted)) return 3
  if (wanted.length > 1 && word.includes(wanted)) return 2
  // A slip in three letters could be anything.
  return wanted.length >= 4 && isOneSlipAway(wanted, word) ? 1 : 0
}

/** One letter too many, too few, another, or two the wrong way about; the rest of a longer word is still to be typed. */
function isOneSlipAway(wanted: string, word: string): boolean {
  let at = 0
  while (at < wanted.length && wanted[at] === word[at]) at++
  const [rest, left] = [wanted.slice(at), word.slice(at)]
  const begins = (typed: string, whole: string) => whole.startsWith(typed)
  return begins(rest.slice(1), left) || begins(rest, left.slice(1)) || begins(rest.slice(1), left.slice(1)) || (rest[0] === left[1] && rest[1] === left[0] && begins(rest.slice(2), left.slice(2)))
}
