/** The text of an expression, cut into tokens. */
import { ExpressionError, problem } from './problem'
import type { Span } from './tree'

export interface Token extends Span {
  kind: 'number' | 'text' | 'word' | 'symbol' | 'end'
  /** As written; for a text, what stands between its quotes, unescaped. */
  text: string
  /** Whether white space or a comment stands before it. */
  apart: boolean
}

export const LONGEST_EXPRESSION = 20_000

const BLANKS = /(?:\s|\/\/[^\n]*|\/\*[^]*?\*\/)+/uy
const NUMBER = /(?:\d+(?:\.\d+)?|\.\d+)(?:[eE][+-]?\d+)?/y
// DMN 1.5 grammar rules 28 to 30: what a name may begin with and hold.
const WORD = /[\p{L}_?][\p{L}\p{N}\p{M}_?'’·]*/uy
const SYMBOL = /\*\*|\.\.|<=|>=|!=|->|[-+*/=<>()[\]{},.:@]/y
const TEXT = /"(?:[^"\\]|\\[^])*"/y
const KINDS: { kind: Token['kind']; pattern: RegExp }[] = [
  { kind: 'number', pattern: NUMBER }, { kind: 'word', pattern: WORD }, { kind: 'text', pattern: TEXT }, { kind: 'symbol', pattern: SYMBOL },
]
const ESCAPES: Record<string, string> = { n: '\n', r: '\r', t: '\t', '"': '"', "'": "'", '\\': '\\' }

/** @throws ExpressionError where the text cannot be cut */
export function tokensOf(text: string): Token[] {
  if (text.length > LONGEST_EXPRESSION) {
    throw new ExpressionError(problem('too-long', { from: LONGEST_EXPRESSION, to: text.length }, [String(text.length)], [String(LONGEST_EXPRESSION)]))
  }
  const tokens: Token[] = []
  let at = 0
  for (;;) {
    const blanks = matchAt(BLANKS, text, at)
    at += blanks.length
    const apart = blanks !== ''
    if (at >= text.length) return [...tokens, { kind: 'end', text: '', from: at, to: at, apart }]
    const token = tokenAt(text, at, apart)
    tokens.push(token)
    at = token.to
  }
}

function tokenAt(text: string, from: number, apart: boolean): Token {
  for (const { kind, pattern } of KINDS) {
    const found = matchAt(pattern, text, from)
    if (found !== '') return { kind, text: kind === 'text' ? unescaped(found, from) : found, from, to: from + found.length, apart }
  }
  if (text[from] === '"') throw new ExpressionError(problem('unclosed-text', { from, to: text.length }))
  const character = String.fromCodePoint(text.codePointAt(from)!)
  throw new ExpressionError(problem('unknown-character', { from, to: from + character.length }, [character]))
}

/** What a sticky pattern matches at a place; empty where nothing. */
function matchAt(pattern: RegExp, text: string, at: number): string {
  pattern.lastIndex = at
  return pattern.exec(text)?.[0] ?? ''
}

function unescaped(quoted: string, from: number): string {
  return quoted.slice(1, -1).replace(/\\(u[0-9a-fA-F]{4}|U[0-9a-fA-F]{6}|[^])/g, (whole, code: string, at: number) => {
    if (code.length > 1) {
      const point = parseInt(code.slice(1), 16)
      if (point <= 0x10ffff) return String.fromCodePoint(point)
    }
    const meant = ESCAPES[code]
    if (meant === undefined) throw new ExpressionError(problem('bad-escape', { from: from + 1 + at, to: from + 1 + at + whole.length }, [whole]))
    return meant
  })
}

/** A text as a literal: the inverse of what `tokensOf` reads. */
export function quoted(text: string): string {
  const escaped = text.replace(/["\\\n\r\t]/g, (character) => `\\${character === '\n' ? 'n' : character === '\r' ? 'r' : character === '\t' ? 't' : character}`)
  return `"${escaped}"`
}
