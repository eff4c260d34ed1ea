/** A text in tokens, and a place among them: what the readers of conditionals have in common. */
import type { Span } from '@dime-gate/core/expression/tree'
import { notUnderstood } from './term'

export interface ConditionalToken extends Span {
  kind: 'number' | 'text' | 'word' | 'name' | 'symbol' | 'end'
  /** As written; of a text or a quoted name, what it holds. */
  text: string
}

/** One sort of token: how it is written, and what it holds. */
export interface TokenRule {
  kind: ConditionalToken['kind'] | 'skip'
  pattern: RegExp
  value?: (written: string) => string
}

/** In UTF-16 units. */
const LONGEST_CONDITIONAL = 200_000
/** Brackets, choices and signs inside each other. */
const DEEPEST = 150

/** @param rules tried in their order; patterns are sticky */
export function conditionalTokens(text: string, rules: readonly TokenRule[]): ConditionalToken[] {
  if (text.length > LONGEST_CONDITIONAL) throw notUnderstood(`The text has ${text.length} characters; at most ${LONGEST_CONDITIONAL} are read.`, { from: LONGEST_CONDITIONAL, to: text.length })
  const tokens: ConditionalToken[] = []
  let at = 0
  while (at < text.length) {
    const found = rules.map((rule) => {
      rule.pattern.lastIndex = at
      return { rule, written: rule.pattern.exec(text)?.[0] ?? '' }
    }).find(({ written }) => written !== '')
    if (!found) {
      const sign = String.fromCodePoint(text.codePointAt(at)!)
      throw notUnderstood(sign === '"' || sign === "'" ? 'This quotation is never closed.' : `“${sign}” has no place here.`, { from: at, to: at + sign.length })
    }
    const { rule, written } = found
    if (rule.kind !== 'skip') tokens.push({ kind: rule.kind, text: rule.value ? rule.value(written) : written, from: at, to: at + written.length })
    at += written.length
  }
  return [...tokens, { kind: 'end', text: '', from: text.length, to: text.length }]
}

export class ConditionalCursor {
  protected at = 0
  private depth = 0

  constructor(protected readonly tokens: readonly ConditionalToken[]) {}

  protected get next(): ConditionalToken {
    return this.tokens[this.at]!
  }

  protected take(): ConditionalToken {
    const token = this.next
    if (token.kind !== 'end') this.at++
    return token
  }

  protected isSymbol(text: string): boolean {
    return this.next.kind === 'symbol' && this.next.text === text
  }

  /** Words count alike in capitals and small letters. */
  protected isWord(...texts: string[]): boolean {
    return this.next.kind === 'word' && texts.includes(this.next.text.toUpperCase())
  }

  protected skipSymbol(text: string): boolean {
    const isNext = this.isSymbol(text)
    if (isNext) this.at++
    return isNext
  }

  protected skipWord(text: string): boolean {
    const isNext = this.isWord(text)
    if (isNext) this.at++
    return isNext
  }

  protected expectSymbol(text: string): void {
    if (!this.skipSymbol(text)) this.fail(`“${text}”`)
  }

  protected expectWord(text: string): void {
    if (!this.skipWord(text)) this.fail(text)
  }

  protected fail(expected: string): never {
    const { kind, text } = this.next
    throw notUnderstood(kind === 'end' ? `The text ends where ${expected} should stand.` : `“${text}” stands where ${expected} should.`, this.next)
  }

  protected since(start: Span): Span {
    return { from: start.from, to: this.tokens[Math.max(0, this.at - 1)]!.to }
  }

  protected deeper<Result>(read: () => Result): Result {
    if (++this.depth > DEEPEST) throw notUnderstood(`This is nested more than ${DEEPEST} deep.`, this.next)
    const result = read()
    this.depth--
    return result
  }
}
