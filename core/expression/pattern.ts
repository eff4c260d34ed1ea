/**
 * Regular expressions as FEEL's text functions use them (XQuery and XPath Functions 3.1 clause 5.6, without
 * back-references). Matching walks all possibilities side by side, so its time grows with text times pattern
 * whatever the two are: the platform's own expressions can be made to run for years.
 */
interface CharacterTest {
  (character: string): boolean
}

type Step =
  | { kind: 'one'; test: CharacterTest }
  | { kind: 'split'; first: number; second: number }
  | { kind: 'jump'; to: number }
  | { kind: 'save'; slot: number }
  | { kind: 'start' | 'end' }
  | { kind: 'match' }

export interface Pattern {
  readonly steps: readonly Step[]
  readonly groups: number
  readonly lines: boolean
}

export interface Match {
  from: number
  to: number
  /** What each group holds, the whole match first; null for a group that took no part. */
  groups: (string | null)[]
}

const MOST_STEPS = 2000
const LONGEST_PATTERN = 1000
/** Text beyond this is not searched; no cell is meant to be as long. */
export const LONGEST_SEARCHED = 20_000

type Regex =
  | { kind: 'one'; test: CharacterTest }
  | { kind: 'start' | 'end' }
  | { kind: 'sequence'; of: Regex[] }
  | { kind: 'choice'; of: Regex[] }
  | { kind: 'group'; index: number; of: Regex }
  | { kind: 'repeat'; of: Regex; least: number; most: number; isLazy: boolean }

class PatternError extends Error {}

/** @returns null where the pattern or its flags are none that this clause knows, or too large. */
export function compilePattern(pattern: string, flags = ''): Pattern | null {
  if (pattern.length > LONGEST_PATTERN || /[^simx]/.test(flags)) return null
  try {
    const reader = new PatternReader(pattern, flags)
    const tree = reader.whole()
    const steps: Step[] = []
    emit({ kind: 'group', index: 0, of: tree }, steps)
    steps.push({ kind: 'match' })
    return { steps, groups: reader.groups + 1, lines: flags.includes('m') }
  } catch (error) {
    if (error instanceof PatternError) return null
    throw error
  }
}

class PatternReader {
  groups = 0
  private at = 0
  private depth = 0
  private readonly characters: string[]
  private readonly foldsCase: boolean

  constructor(pattern: string, private readonly flags: string) {
    this.characters = [...(flags.includes('x') ? pattern.replace(/[ \t\r\n]/g, '') : pattern)]
    this.foldsCase = flags.includes('i')
  }

  whole(): Regex {
    const regex = this.choice()
    if (this.at < this.characters.length) throw new PatternError()
    return regex
  }

  private choice(): Regex {
    if (++this.depth > 100) throw new PatternError()
    const of = [this.sequence()]
    while (this.skip('|')) of.push(this.sequence())
    this.depth--
    return of.length === 1 ? of[0]! : { kind: 'choice', of }
  }

  private sequence(): Regex {
    const of: Regex[] = []
    while (this.at < this.characters.length && this.next !== '|' && this.next !== ')') of.push(this.repeated())
    return { kind: 'sequence', of }
  }

  private repeated(): Regex {
    const of = this.atom()
    let [least, most] = [1, 1]
    if (this.skip('*')) [least, most] = [0, Infinity]
    else if (this.skip('+')) [least, most] = [1, Infinity]
    else if (this.skip('?')) [least, most] = [0, 1]
    else if (this.skip('{')) [least, most] = this.bounds()
    else return of
    if (of.kind === 'start' || of.kind === 'end') throw new PatternError()
    const isLazy = this.skip('?')
    if (['*', '+', '{', '?'].includes(this.next ?? '')) throw new PatternError()
    return { kind: 'repeat', of, least, most, isLazy }
  }

  private bounds(): [number, number] {
    const end = this.characters.indexOf('}', this.at)
    const parts = /^(\d{1,4})(,(\d{1,4})?)?$/.exec(this.characters.slice(this.at, end < 0 ? this.at : end).join(''))
    if (!parts) throw new PatternError()
    this.at = end + 1
    const least = Number(parts[1])
    const most = parts[2] === undefined ? least : parts[3] === undefined ? Infinity : Number(parts[3])
    if (most < least) throw new PatternError()
    return [least, most]
  }

  private atom(): Regex {
    const character = this.take()
    switch (character) {
      case '(': {
        const isCounted = !(this.next === '?' && this.characters[this.at + 1] === ':')
        if (!isCounted) this.at += 2
        const index = isCounted ? ++this.groups : -1
        const of = this.choice()
        if (!this.skip(')')) throw new PatternError()
        return isCounted ? { kind: 'group', index, of } : of
      }
      case '.':
        return { kind: 'one', test: this.flags.includes('s') ? () => true : (c) => c !== '\n' && c !== '\r' }
      case '^':
        return { kind: 'start' }
      case '$':
        return { kind: 'end' }
      case '[':
        return { kind: 'one', test: this.characterClass() }
      case '\\':
        return { kind: 'one', test: this.escape().test }
      case '*': case '+': case '?': case '{': case '}': case ']': case ')':
        throw new PatternError()
      default:
        return { kind: 'one', test: this.exactly(character) }
    }
  }

  private exactly(character: string): CharacterTest {
    return this.between(character, character)
  }

  private between(first: string, last: string): CharacterTest {
    const [from, to] = [first.codePointAt(0)!, last.codePointAt(0)!]
    if (from > to) throw new PatternError()
    const isInside = (character: string) => character.codePointAt(0)! >= from && character.codePointAt(0)! <= to
    return this.foldsCase ? (character) => isInside(character) || isInside(character.toLowerCase()) || isInside(character.toUpperCase()) : isInside
  }

  /** The one character that an escape stands for, or null where it stands for a class of them. */
  private escape(): { character: string | null; test: CharacterTest } {
    const letter = this.take()
    const controls: Record<string, string> = { n: '\n', r: '\r', t: '\t' }
    if (letter in controls) return { character: controls[letter]!, test: this.exactly(controls[letter]!) }
    if ('\\|.-^?*+{}()[]$'.includes(letter)) return { character: letter, test: this.exactly(letter) }
    const classes: Record<string, RegExp> = { s: /[ \t\n\r]/, d: /\p{Nd}/u, w: /[^\p{P}\p{Z}\p{C}]/u, i: /[\p{L}_:]/u, c: /[\p{L}\p{N}_:.·-]/u }
    const known = classes[letter.toLowerCase()]
    if (known) return { character: null, test: letter === letter.toLowerCase() ? (c) => known.test(c) : (c) => !known.test(c) }
    if (letter.toLowerCase() !== 'p' || !this.skip('{')) throw new PatternError()
    const end = this.characters.indexOf('}', this.at)
    const category = this.characters.slice(this.at, Math.max(this.at, end)).join('')
    if (!/^(L[ultmo]?|M[nce]?|N[dlo]?|P[cdseifo]?|Z[slp]?|S[mcko]?|C[cfon]?)$/.test(category)) throw new PatternError()
    this.at = end + 1
    const member = new RegExp(`\\p{${category}}`, 'u')
    return { character: null, test: letter === 'p' ? (c) => member.test(c) : (c) => !member.test(c) }
  }

  private characterClass(): CharacterTest {
    if (++this.depth > 100) throw new PatternError()
    const isNegated = this.skip('^')
    const tests: CharacterTest[] = []
    let without: CharacterTest | null = null
    while (!this.skip(']')) {
      if (tests.length > 0 && this.next === '-' && this.characters[this.at + 1] === '[') {
        this.at += 2
        without = this.characterClass()
        if (!this.skip(']')) throw new PatternError()
        break
      }
      tests.push(this.classMember())
    }
    this.depth--
    if (tests.length === 0) throw new PatternError()
    const isMember = (character: string) => tests.some((test) => test(character)) !== isNegated
    return without ? (character) => isMember(character) && !without(character) : isMember
  }

  private classMember(): CharacterTest {
    const first = this.take()
    if (first === '[') throw new PatternError()
    const low = first === '\\' ? this.escape() : { character: first, test: this.exactly(first) }
    const isRange = low.character !== null && this.next === '-' && ![']', '['].includes(this.characters[this.at + 1] ?? ']')
    if (!isRange) return low.test
    this.take()
    const last = this.take()
    const high = last === '\\' ? this.escape().character : last
    if (high === null) throw new PatternError()
    return this.between(low.character!, high)
  }

  private get next(): string | undefined {
    return this.characters[this.at]
  }

  private take(): string {
    const character = this.characters[this.at++]
    if (character === undefined) throw new PatternError()
    return character
  }

  private skip(character: string): boolean {
    if (this.next !== character) return false
    this.at++
    return true
  }
}

function emit(regex: Regex, steps: Step[]): void {
  if (steps.length > MOST_STEPS) throw new PatternError()
  switch (regex.kind) {
    case 'one': case 'start': case 'end':
      steps.push(regex)
      return
    case 'sequence':
      for (const part of regex.of) emit(part, steps)
      return
    case 'group':
      steps.push({ kind: 'save', slot: regex.index * 2 })
      emit(regex.of, steps)
      steps.push({ kind: 'save', slot: regex.index * 2 + 1 })
      return
    case 'choice':
      return emitChoice(regex.of, steps)
    case 'repeat':
      return emitRepeat(regex, steps)
  }
}

function emitChoice(of: readonly Regex[], steps: Step[]): void {
  const jumps: { kind: 'jump'; to: number }[] = []
  for (const [at, part] of of.entries()) {
    if (at === of.length - 1) emit(part, steps)
    else {
      const split = pushed(steps, { kind: 'split' as const, first: steps.length + 1, second: 0 })
      emit(part, steps)
      jumps.push(pushed(steps, { kind: 'jump' as const, to: 0 }))
      split.second = steps.length
    }
  }
  for (const jump of jumps) jump.to = steps.length
}

function emitRepeat({ of, least, most, isLazy }: Extract<Regex, { kind: 'repeat' }>, steps: Step[]): void {
  for (let count = 0; count < least; count++) emit(of, steps)
  const optional = (body: () => void) => {
    const split = pushed(steps, { kind: 'split' as const, first: steps.length + 1, second: 0 })
    body()
    split.second = steps.length
    if (isLazy) [split.first, split.second] = [split.second, split.first]
  }
  if (most === Infinity) {
    const start = steps.length
    optional(() => {
      emit(of, steps)
      steps.push({ kind: 'jump', to: start })
    })
    return
  }
  for (let count = least; count < most; count++) optional(() => emit(of, steps))
}

function pushed<One extends Step>(steps: Step[], step: One): One {
  if (steps.length > MOST_STEPS) throw new PatternError()
  steps.push(step)
  return step
}

interface Thread {
  at: number
  saved: readonly (number | undefined)[]
}

/** The leftmost match that begins at code point `from` or later; positions count code points. */
export function findMatch(pattern: Pattern, characters: readonly string[], from = 0): Match | null {
  let threads: Thread[] = []
  let best: Thread | null = null
  for (let place = from; place <= characters.length; place++) {
    const visited = new Set<number>()
    const entered: Thread[] = []
    for (const { at, saved } of threads) enter(pattern, at, saved, place, characters, visited, entered)
    // A new start comes after those under way: the leftmost match wins.
    if (!best) enter(pattern, 0, [], place, characters, visited, entered)
    threads = []
    for (const thread of entered) {
      const step = pattern.steps[thread.at]!
      if (step.kind === 'match') {
        best = thread
        break
      }
      if (step.kind === 'one' && place < characters.length && step.test(characters[place]!)) threads.push({ at: thread.at + 1, saved: thread.saved })
    }
    if (threads.length === 0 && best) break
  }
  if (!best) return null
  const groups = Array.from({ length: pattern.groups }, (_, index) => {
    const [start, end] = [best.saved[index * 2], best.saved[index * 2 + 1]]
    return start === undefined || end === undefined ? null : characters.slice(start, end).join('')
  })
  return { from: best.saved[0]!, to: best.saved[1]!, groups }
}

/** Follows the steps that take no character, in order of preference, without the machine's stack. */
function enter({ steps, lines }: Pattern, from: number, saved: Thread['saved'], place: number, characters: readonly string[], visited: Set<number>, entered: Thread[]): void {
  const waiting: Thread[] = [{ at: from, saved }]
  for (let thread = waiting.pop(); thread; thread = waiting.pop()) {
    const { at, saved } = thread
    if (visited.has(at)) continue
    visited.add(at)
    const step = steps[at]!
    switch (step.kind) {
      case 'jump':
        waiting.push({ at: step.to, saved })
        break
      case 'split':
        waiting.push({ at: step.second, saved }, { at: step.first, saved })
        break
      case 'save': {
        const changed = saved.slice()
        changed[step.slot] = place
        waiting.push({ at: at + 1, saved: changed })
        break
      }
      case 'start':
        if (place === 0 || (lines && characters[place - 1] === '\n')) waiting.push({ at: at + 1, saved })
        break
      case 'end':
        if (place === characters.length || (lines && characters[place] === '\n')) waiting.push({ at: at + 1, saved })
        break
      default:
        entered.push(thread)
    }
  }
}
