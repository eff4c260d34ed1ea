/** Functions on texts (DMN 1.5 clause 10.3.4.3). Characters are code points. */
import type { Outcome } from '../../value/arithmetic'
import type { Decimal } from '../../value/number'
import { Decimal as NumberOf } from '../../value/number'
import type { Value } from '../../value/value'
import { compilePattern, findMatch, LONGEST_SEARCHED, type Match, type Pattern } from '../pattern'
import { define } from './define'

const two = (run: (a: string, b: string) => Value) => ([a, b]: readonly Value[]) => run(a as string, b as string)

export const TEXT_FUNCTIONS = [
  define('substring', ['string: text, start position: number, length?: number', 'text', ([text, start, length]) => substring(text as string, start as Decimal, length as Decimal | null)]),
  define('string length', ['string: text', 'number', ([text]) => new NumberOf([...(text as string)].length)]),
  define('upper case', ['string: text', 'text', ([text]) => (text as string).toUpperCase()]),
  define('lower case', ['string: text', 'text', ([text]) => (text as string).toLowerCase()]),
  define('substring before', ['string: text, match: text', 'text', two((text, match) => text.slice(0, Math.max(0, text.indexOf(match))))]),
  define('substring after', ['string: text, match: text', 'text', two((text, match) => (text.includes(match) ? text.slice(text.indexOf(match) + match.length) : ''))]),
  define('contains', ['string: text, match: text', 'boolean', two((text, match) => text.includes(match))]),
  define('starts with', ['string: text, match: text', 'boolean', two((text, match) => text.startsWith(match))]),
  define('ends with', ['string: text, match: text', 'boolean', two((text, match) => text.endsWith(match))]),
  define('matches', ['input: text, pattern: text, flags?: text', 'boolean', ([text, pattern, flags]) => {
    return withPattern(text as string, pattern as string, flags as string | null, (compiled, characters) => findMatch(compiled, characters) !== null)
  }]),
  define('replace', ['input: text, pattern: text, replacement: text, flags?: text', 'text', ([text, pattern, replacement, flags]) => {
    return withPattern(text as string, pattern as string, flags as string | null, (compiled, characters) => replace(compiled, characters, replacement as string))
  }]),
  define('split', ['string: text, delimiter: text', { list: 'text' }, ([text, delimiter]) => {
    return withPattern(text as string, delimiter as string, null, split)
  }]),
  define('string join', ['list: list of text, delimiter?: text or null', 'text', ([list, delimiter]) => join(list as readonly Value[], (delimiter as string | null) ?? '')]),
]

/** No text that an expression makes is longer, in UTF-16 units. */
export const LONGEST_TEXT = 500_000

function join(items: readonly Value[], delimiter: string): Outcome | Value {
  const texts = items.filter((item) => item !== null)
  if (!texts.every((item) => typeof item === 'string')) return { shortfall: 'wrong-kind' }
  const length = texts.reduce((total, text) => total + text.length + delimiter.length, 0)
  return length > LONGEST_TEXT ? { shortfall: 'out-of-range' } : texts.join(delimiter)
}

function substring(text: string, start: Decimal, length: Decimal | null): Outcome | Value {
  const characters = [...text]
  if (!start.isInteger() || start.isZero() || (length && (!length.isInteger() || length.lt(1)))) return { shortfall: 'out-of-range' }
  const from = start.isNeg() ? characters.length + start.toNumber() : start.toNumber() - 1
  if (from < 0) return { shortfall: 'out-of-range' }
  return characters.slice(from, length ? from + length.toNumber() : undefined).join('')
}

const compiled = new Map<string, Pattern | null>()
const MOST_COMPILED = 200

function patternFor(pattern: string, flags: string): Pattern | null {
  const key = `${flags}/${pattern}`
  if (!compiled.has(key)) {
    // The same few patterns meet every record; a fresh start now and then bounds what is kept.
    if (compiled.size >= MOST_COMPILED) compiled.clear()
    compiled.set(key, compilePattern(pattern, flags))
  }
  return compiled.get(key)!
}

function withPattern(text: string, pattern: string, flags: string | null, run: (pattern: Pattern, characters: string[]) => Outcome | Value): Outcome | Value {
  const ready = patternFor(pattern, flags ?? '')
  if (!ready) return { shortfall: 'no-result' }
  const characters = [...text]
  return characters.length > LONGEST_SEARCHED ? { shortfall: 'out-of-range' } : run(ready, characters)
}

function* matchesOf(pattern: Pattern, characters: readonly string[]): Generator<Match> {
  for (let from = 0; from <= characters.length; ) {
    const match = findMatch(pattern, characters, from)
    if (!match) return
    yield match
    from = match.to > match.from ? match.to : match.to + 1
  }
}

/** XPath Functions 3.1 clause 5.6.4: `$1` is the first group; a pattern that matches nothing at all has no replacement. */
function replace(pattern: Pattern, characters: readonly string[], replacement: string): Outcome | Value {
  if (findMatch(pattern, []) || /\\(?![\\$])|\$(?!\d)/.test(replacement.replace(/\\[\\$]/g, ''))) return { shortfall: 'no-result' }
  let result = ''
  let from = 0
  for (const match of matchesOf(pattern, characters)) {
    result += characters.slice(from, match.from).join('')
    result += replacement.replace(/\\([\\$])|\$(\d)/g, (_, sign: string | undefined, group: string) => sign ?? match.groups[Number(group)] ?? '')
    from = match.to
    if (result.length > LONGEST_TEXT) return { shortfall: 'out-of-range' }
  }
  return result + characters.slice(from).join('')
}

function split(pattern: Pattern, characters: readonly string[]): Outcome | Value {
  if (findMatch(pattern, [])) return { shortfall: 'no-result' }
  const parts: string[] = []
  let from = 0
  for (const match of matchesOf(pattern, characters)) {
    parts.push(characters.slice(from, match.from).join(''))
    from = match.to
  }
  return [...parts, characters.slice(from).join('')]
}
