/**
 * Names with spaces, and with the signs that FEEL lets names hold. Which words belong together is told
 * by the names that are known: the longest that fits is meant (DMN 1.5 clause 10.3.1.2).
 */
import { ExpressionError } from './problem'
import { type Token, tokensOf } from './tokens'

/** Words that end a run of words which is not a known name. */
export const KEYWORDS: ReadonlySet<string> = new Set([
  'and', 'or', 'if', 'then', 'else', 'for', 'in', 'return', 'some', 'every', 'satisfies', 'between', 'instance', 'function', 'true', 'false', 'null',
])
/** DMN 1.5 grammar rule 31, additional name symbols. */
const NAME_SYMBOLS = new Set(['.', '/', '-', '+', '*'])

interface KnownName {
  name: string
  tokens: Token[]
}

export interface Names {
  /** The longest known name that begins at token `at`, and how many tokens it takes. */
  match(tokens: readonly Token[], at: number): { name: string; length: number } | null
  all: readonly string[]
}

/** Names that were made ready already are taken as they are. */
export function namesOf(known: Iterable<string> | Names): Names {
  if ('match' in known) return known
  const all = [...known]
  const byFirst = new Map<string, KnownName[]>()
  for (const name of all) {
    const tokens = nameTokens(name)
    if (tokens) byFirst.set(tokens[0]!.text, [...(byFirst.get(tokens[0]!.text) ?? []), { name, tokens }])
  }
  for (const names of byFirst.values()) names.sort((a, b) => b.tokens.length - a.tokens.length)
  return {
    all,
    match(tokens, at) {
      const found = byFirst.get(tokens[at]!.text)?.find((known) => known.tokens.every((token, i) => isSame(token, tokens[at + i], i)))
      return found ? { name: found.name, length: found.tokens.length } : null
    },
  }
}

/** Words are set apart by any space; a sign only counts where it is set as in the name: `Wind-borne` is not `Wind - borne`. */
function isSame(known: Token, token: Token | undefined, index: number): boolean {
  if (!token || token.kind !== known.kind || token.text !== known.text) return false
  return index === 0 || token.apart === known.apart
}

function nameTokens(name: string): Token[] | null {
  try {
    const tokens = tokensOf(name).slice(0, -1)
    return tokens[0]?.kind === 'word' && tokens.every(isNamePart) ? tokens : null
  } catch (error) {
    if (error instanceof ExpressionError) return null
    throw error
  }
}

function isNamePart({ kind, text }: Token): boolean {
  return kind === 'word' || kind === 'number' || (kind === 'symbol' && NAME_SYMBOLS.has(text))
}

/** Why conditions could not refer to this name; null where they can. */
export function nameTrouble(name: string): 'empty' | 'keyword' | 'sign' | 'begins-with-figure' | null {
  if (name.trim() === '') return 'empty'
  if (KEYWORDS.has(name) || name === 'not' || name === 'item') return 'keyword'
  if (/^[\d.]/.test(name)) return 'begins-with-figure'
  return nameTokens(name) ? null : 'sign'
}

/** A name that conditions can refer to, as near to the one that is wanted as can be. */
export function usableName(wanted: string): string {
  if (nameTrouble(wanted) === null) return wanted
  const plain = wanted.replace(/[^\p{L}\p{N} _]+/gu, ' ').replace(/\s+/g, ' ').trim()
  const begun = /^\p{L}/u.test(plain) ? plain : `Column ${plain}`.trim()
  return nameTrouble(begun) === null ? begun : `${begun} value`
}

/** The known name most like `name`, or null where none is near. */
export function nearestName(name: string, known: Iterable<string>): string | null {
  let best: { name: string; distance: number } | null = null
  for (const candidate of known) {
    const distance = editDistance(name.toLowerCase(), candidate.toLowerCase())
    if (!best || distance < best.distance) best = { name: candidate, distance }
  }
  return best && best.distance <= Math.max(1, Math.floor(name.length / 3)) ? best.name : null
}

/** How many letters have to be put in, left out, exchanged or swapped with their neighbour (optimal string alignment). */
export function editDistance(a: string, b: string): number {
  if (Math.abs(a.length - b.length) > 20 || a.length > 200 || b.length > 200) return Infinity
  let [before, row] = [[] as number[], Array.from({ length: b.length + 1 }, (_, at) => at)]
  for (let i = 1; i <= a.length; i++) {
    const next = [i]
    for (let j = 1; j <= b.length; j++) {
      const cost = a[i - 1] === b[j - 1] ? 0 : 1
      next[j] = Math.min(row[j]! + 1, next[j - 1]! + 1, row[j - 1]! + cost)
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) next[j] = Math.min(next[j]!, before[j - 2]! + 1)
    }
    ;[before, row] = [row, next]
  }
  return row[b.length]!
}
