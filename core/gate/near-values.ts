/** Values that look like others: written with other case or spaces, or a letter off. */
import { editDistance } from '../expression/names'
import { folded } from './form'

/** `Band 1` and `Band 2` are near each other on purpose, and so are short words. */
export function areNear(a: string, b: string): boolean {
  return isWrittenAlike(a, b) || isLetterOff(folded(a), folded(b))
}

/** Whether they differ by case, by spaces, or by signs between words alone. */
export function isWrittenAlike(a: string, b: string): boolean {
  return bare(folded(a)) === bare(folded(b))
}

const bare = (text: string) => text.replace(/[ _.-]/g, '')
const SHORTEST = 5

function isLetterOff(left: string, right: string): boolean {
  const differ = left.replace(/\d+/g, '') !== right.replace(/\d+/g, '')
  return differ && Math.min(left.length, right.length) >= SHORTEST && editDistance(left, right) === 1
}

/** Finds among many values one that is near; each is looked up, not compared with all of them. */
export function nearestOf(known: readonly string[]): (value: string) => string | null {
  const whole = new Map<string, string>()
  const shortened = new Map<string, string[]>()
  for (const value of known) {
    const text = folded(value)
    if (!whole.has(bare(text))) whole.set(bare(text), value)
    for (const short of withLetterLess(text)) shortened.set(short, [...(shortened.get(short) ?? []), value])
  }
  return (value) => {
    const text = folded(value)
    const same = whole.get(bare(text))
    if (same !== undefined && same !== value) return same
    // Two texts that are a letter apart have one in common that is a letter shorter than the longer of them.
    const candidates = withLetterLess(text).flatMap((short) => shortened.get(short) ?? [])
    return candidates.find((other) => other !== value && isLetterOff(folded(other), text)) ?? null
  }
}

const LONGEST = 80

function withLetterLess(text: string): string[] {
  if (text.length < SHORTEST - 1 || text.length > LONGEST) return []
  return [text, ...Array.from(text, (_, at) => text.slice(0, at) + text.slice(at + 1))]
}
