/** Where a parser stands among its tokens: what comes next, what has a name there, and how deep it is. */
import { type Names, namesOf } from './names'
import { ExpressionError, problem, type ProblemCode } from './problem'
import type { Token } from './tokens'
import type { Node, Span } from './tree'

/** Deeper than this nobody nests, and far from where the machine's stack ends. */
const DEEPEST = 200

export class Cursor {
  protected at = 0
  private depth = 0
  /** What `for`, `some`, `every` and `function` name on the way, innermost last. */
  private bound: Names[] = []

  constructor(protected readonly tokens: readonly Token[], private readonly names: Names) {}

  protected get next(): Token {
    return this.tokens[this.at]!
  }

  protected take(): Token {
    const token = this.next
    if (token.kind !== 'end') this.at++
    return token
  }

  protected isWord(word: string): boolean {
    return this.next.kind === 'word' && this.next.text === word && this.knownName() === null
  }

  protected skip(symbol: string): boolean {
    if (this.next.kind !== 'symbol' || this.next.text !== symbol) return false
    this.at++
    return true
  }

  protected expect(symbol: string): void {
    if (!this.skip(symbol)) this.fail('unexpected', [symbol])
  }

  protected expectWord(word: string): void {
    if (this.next.kind !== 'word' || this.next.text !== word) this.fail('unexpected', [word])
    this.at++
  }

  protected since(start: Span): Span {
    return { from: start.from, to: this.tokens[this.at - 1]!.to }
  }

  protected fail(code: ProblemCode, hint: string[] = []): never {
    const isEnd = this.next.kind === 'end' && code === 'unexpected'
    throw new ExpressionError(problem(isEnd ? 'unexpected-end' : code, this.next, this.next.text ? [this.next.text] : [], hint))
  }

  protected deeper(parse: () => Node): Node {
    if (++this.depth > DEEPEST) this.fail('too-deep')
    const node = parse()
    this.depth--
    return node
  }

  protected within<Result>(variables: readonly { name: string }[], parse: () => Result): Result {
    this.bound.push(namesOf(variables.map(({ name }) => name)))
    const result = parse()
    this.bound.pop()
    return result
  }

  protected knownName(): { name: string; length: number } | null {
    let best = this.names.match(this.tokens, this.at)
    for (const names of this.bound) {
      const inner = names.match(this.tokens, this.at)
      if (inner && (!best || inner.length >= best.length)) best = inner
    }
    return best
  }
}
