/** What operators stand between: values, names, calls, and all that is in brackets. */
import { Decimal } from '../value/number'
import { numberFromText } from '../value/value-text'
import { Cursor } from './cursor'
import { FUNCTION_NAMES } from './functions/built-in'
import { KEYWORDS, namesOf } from './names'
import { ExpressionError, problem } from './problem'
import type { Token } from './tokens'
import { COMPARISONS, type ComparisonOperator, type Node, spanOf, TESTED } from './tree'
import { FEEL_TYPE_NAMES } from './type'

/** A number that is written as it is kept. */
const CANONICAL = /^(0|[1-9]\d*)(\.\d*[1-9])?$/
const FUNCTIONS = namesOf(FUNCTION_NAMES)
const TYPES = namesOf(FEEL_TYPE_NAMES)
const NOTHING: Node = { kind: 'null', span: { from: 0, to: 0 } }

/** The lower half of the parser; what joins operands is above it (see `parse`). */
export abstract class Operands extends Cursor {
  /** Inside an open-ended bracket `[1..5[` the last bracket closes the range instead of opening a filter. */
  protected isRangeEnd = false

  abstract expression(): Node
  protected abstract quantified(): Node
  protected abstract sum(): Node
  protected abstract test(): Node

  protected primary(): Node {
    switch (this.next.kind) {
      case 'number':
        return this.number()
      case 'text':
        return this.text()
      case 'word':
        return this.word()
      case 'symbol':
        return this.bracketed()
      case 'end':
        return this.fail('unexpected-end', ['a value'])
    }
  }

  private text(): Node {
    const token = this.take()
    return { kind: 'text', text: token.text, span: spanOf(token) }
  }

  private number(): Node {
    const token = this.take()
    if (token.text.length <= 15 && CANONICAL.test(token.text)) return { kind: 'number', number: token.text, span: spanOf(token) }
    const number = numberFromText(token.text)
    if (!number) throw new ExpressionError(problem('bad-number', token, [token.text]))
    return { kind: 'number', number: number.isZero() ? '0' : number.abs().gt(1e40) || number.abs().lt(1e-40) ? String(number) : new Decimal(number).toFixed(), span: spanOf(token) }
  }

  private word(): Node {
    const token = this.next
    const known = this.knownName()
    const called = FUNCTIONS.match(this.tokens, this.at)
    if (called && this.tokens[this.at + called.length]!.text === '(' && (!known || known.length <= called.length)) return this.call(called)
    if (known) {
      const last = this.tokens[this.at + known.length - 1]!
      const after = this.tokens[this.at + known.length]!
      // Two words in a row are never right, so the whole run is one name that nobody knows.
      if (after.kind === 'word' && !KEYWORDS.has(after.text)) return this.unknownName()
      this.at += known.length
      return { kind: 'name', name: known.name, span: { from: token.from, to: last.to } }
    }
    switch (token.text) {
      case 'true': case 'false':
        return { kind: 'boolean', value: token.text === 'true', span: spanOf(this.take()) }
      case 'null':
        return { kind: 'null', span: spanOf(this.take()) }
      case 'function':
        return this.functionLiteral()
      case 'if': case 'for':
        return this.expression()
      case 'some': case 'every':
        return this.quantified()
    }
    if (KEYWORDS.has(token.text)) this.fail('unexpected', ['a value'])
    return this.unknownName()
  }

  /** A run of words that is no name; the types' check says so, with the nearest one. */
  private unknownName(): Node {
    const start = this.next
    const words = this.words(true)
    const span = this.since(start)
    if (this.next.text === '(' && this.next.kind === 'symbol') {
      throw new ExpressionError(problem('unknown-function', span, [words.join(' ')]))
    }
    return { kind: 'name', name: words.join(' '), span }
  }

  /** [40] with positions or names. */
  private call({ name, length }: { name: string; length: number }): Node {
    const start = this.next
    this.at += length
    this.expect('(')
    const args: Node[] = []
    const names: string[] = []
    if (this.next.text !== ')' || this.next.kind !== 'symbol') {
      do {
        const parameter = this.parameterName()
        if (parameter !== null) names.push(parameter)
        if (names.length > 0 && parameter === null) this.fail('unexpected', ['the name of a parameter'])
        args.push(this.test())
      } while (this.skip(','))
    }
    this.expect(')')
    if (names.length > 0 && names.length < args.length) throw new ExpressionError(problem('argument-name', this.since(start), [name]))
    return { kind: 'call', name, args, names: names.length > 0 ? names : null, span: this.since(start) }
  }

  private parameterName(): string | null {
    let end = this.at
    while (this.tokens[end]!.kind === 'word') end++
    if (end === this.at || this.tokens[end]!.text !== ':') return null
    const words = this.tokens.slice(this.at, end).map(({ text }) => text)
    this.at = end + 1
    return words.join(' ')
  }

  /** [55] */
  private functionLiteral(): Node {
    const start = this.take()
    this.expect('(')
    const parameters: string[] = []
    if (this.next.text !== ')') {
      do {
        parameters.push(this.newName())
        // What a parameter is said to be is read, and taken for what it is when it is used.
        if (this.skip(':')) this.typeName()
      } while (this.skip(','))
    }
    this.expect(')')
    const body = this.within(parameters.map((name) => ({ name })), () => this.expression())
    return { kind: 'function', parameters, body, span: this.since(start) }
  }

  /** [52] A type by its name, as in `number`, `list<date>` or `function<number> -> boolean`. */
  protected typeName(): string {
    const type = TYPES.match(this.tokens, this.at)
    if (!type) throw new ExpressionError(problem('unknown-type', this.next, [this.next.text], FEEL_TYPE_NAMES))
    this.at += type.length
    if (!['list', 'range', 'function'].includes(type.name) || !this.skip('<')) return type.name
    const of: string[] = []
    this.deeper(() => {
      do of.push(this.typeName())
      while (this.skip(','))
      return NOTHING
    })
    this.expect('>')
    if (type.name !== 'function') return `${type.name}<${of[0]}>`
    this.expect('->')
    return `function<${of.join(', ')}> -> ${this.typeName()}`
  }

  private bracketed(): Node {
    const start = this.next
    switch (start.text) {
      case '@': {
        this.take()
        if (this.next.kind !== 'text') this.fail('unexpected', ['a date, time or duration in quotes'])
        const { text } = this.take()
        return { kind: 'temporal', text, span: this.since(start) }
      }
      case '(': {
        this.take()
        const range = this.openRange()
        if (!range) return this.rangeOr(start, false, (inner) => this.upTo(')', inner))
        this.expect(')')
        return { ...range, span: this.since(start) }
      }
      case ']':
        this.take()
        return this.rangeOr(start, false, () => this.fail('unexpected', ['..']))
      case '[': {
        this.take()
        if (this.skip(']')) return { kind: 'list', items: [], span: this.since(start) }
        return this.rangeOr(start, true, (first) => {
          const items = [first]
          while (this.skip(',')) items.push(this.expression())
          this.expect(']')
          return { kind: 'list', items, span: this.since(start) }
        })
      }
    }
    return this.fail('unexpected', ['a value'])
  }

  private upTo(symbol: string, node: Node): Node {
    this.expect(symbol)
    return node
  }

  /** After an opening bracket: a range [8] up to its closing one, or else what `otherwise` makes of the first expression. */
  protected rangeOr(start: Token, lowIncluded: boolean, otherwise: (first: Node) => Node): Node {
    const low = this.expression()
    if (!this.skip('..')) return otherwise(low)
    this.isRangeEnd = true
    const high = this.deeper(() => this.sum())
    this.isRangeEnd = false
    const bracket = this.next
    if (bracket.kind !== 'symbol' || ![']', ')', '['].includes(bracket.text)) this.fail('unexpected', [']', ')'])
    this.take()
    return { kind: 'range', low, high, lowIncluded, highIncluded: bracket.text === ']', span: this.since(start) }
  }

  /** `< 5` */
  protected openRange(): Node | null {
    const operator = this.next
    if (operator.kind !== 'symbol' || !(COMPARISONS as readonly string[]).includes(operator.text)) return null
    this.take()
    const end = this.sum()
    const span = this.since(operator)
    switch (operator.text as ComparisonOperator) {
      case '<': case '<=':
        return { kind: 'range', low: null, high: end, lowIncluded: false, highIncluded: operator.text === '<=', span }
      case '>': case '>=':
        return { kind: 'range', low: end, high: null, lowIncluded: operator.text === '>=', highIncluded: false, span }
      default:
        return { kind: 'comparison', operator: operator.text as ComparisonOperator, left: { kind: 'name', name: TESTED, span: spanOf(operator) }, right: end, span }
    }
  }

  /** A name that the expression gives itself. */
  protected newName(): string {
    const words = this.words(true)
    if (words.length === 0) this.fail('unexpected', ['a name'])
    return words.join(' ')
  }

  /** A run of words, and with `figures` of the figures among them, up to a keyword. */
  protected words(figures: boolean): string[] {
    const words: string[] = []
    while ((this.next.kind === 'word' && !KEYWORDS.has(this.next.text)) || (figures && words.length > 0 && this.next.kind === 'number')) words.push(this.take().text)
    return words
  }
}
