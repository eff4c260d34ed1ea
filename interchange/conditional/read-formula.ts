/** OpenFormula (ISO/IEC 26300-4) to terms: IF and its kin, over named cells. */
import type { ArithmeticOperator } from '@dime-gate/core/value/arithmetic'
import type { ComparisonOperator, Node, Span } from '@dime-gate/core/expression/tree'
import { ConditionalCursor, type ConditionalToken, conditionalTokens, type TokenRule } from './cursor'
import { comparisonTerm } from './formula-comparison'
import { formulaFunction } from './formula-functions'
import { booleanValue, negatedValue, nullValue, numberValue, textValue, value } from './nodes'
import { notUnderstood, type Term } from './term'
import { ToFeel } from './to-feel'

const TOKENS: TokenRule[] = [
  { kind: 'skip', pattern: /\s+/y },
  { kind: 'number', pattern: /(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d+)?/y },
  { kind: 'text', pattern: /"(?:[^"]|"")*"/y, value: (written) => written.slice(1, -1).replaceAll('""', '"') },
  { kind: 'name', pattern: /\$\$'(?:[^']|'')+'/y, value: (written) => written.slice(3, -1).replaceAll("''", "'") },
  // A cell of another sheet keeps the sheet's name, so that two cells A1 stay two.
  { kind: 'name', pattern: /(?:'(?:[^']|'')+'|[\p{L}_][\p{L}\p{N}_.]*)!\$?[A-Za-z]{1,3}\$?\d+/uy, value: (written) => written.replaceAll('$', '').replace(/^'|'(?=!)/g, '').replaceAll("''", "'") },
  // The same record's value in a column of a table.
  { kind: 'name', pattern: /[\p{L}\p{N}_.]*\[(?:@\[[^\]]+\]|@[^[\]]+|\[#This Row\],\s*\[[^\]]+\])\]/iuy, value: (written) => /(?:@|\[)\[?([^[\]@]+)\]+$/.exec(written)![1]!.trim() },
  // A cell by its place, clause 5.8: `[.B2]` goes by the name B2.
  { kind: 'name', pattern: /\[(?:\$?(?:'(?:[^']|'')*'|[^\]'.]*))?\.\$?[A-Za-z]+\$?\d+\]/y, value: (written) => written.replace(/^.*\.(?=\$?[A-Za-z]+\$?\d+\]$)/, '').replace(/[\]$]/g, '') },
  { kind: 'word', pattern: /\$?[\p{L}_][\p{L}\p{N}_.$]*/uy, value: (written) => written.replaceAll('$', '') },
  { kind: 'symbol', pattern: /<>|<=|>=|[-+*/^&%=<>();,:~!{}|#]/y },
]
const COMPARISONS: Record<string, ComparisonOperator> = { '=': '=', '<>': '!=', '<': '<', '<=': '<=', '>': '>', '>=': '>=' }

/**
 * @param doubts takes up what was read in one of several ways
 * @throws ConditionalError at the first thing that is not understood
 */
export function readFormula(text: string, doubts: Set<string>): Term {
  const intro = /^\s*(?:of:)?={1,2}/.exec(text)?.[0] ?? ''
  // Blanks in its place, so that positions stay those of the text.
  return new FormulaReader(conditionalTokens(' '.repeat(intro.length) + text.slice(intro.length), TOKENS), doubts).whole()
}

class FormulaReader extends ConditionalCursor {
  private readonly feel = new ToFeel()
  /** What stands between the values of a call, once one was met. */
  private separator: string | null = null

  constructor(tokens: readonly ConditionalToken[], private readonly doubts: Set<string>) {
    super(tokens)
  }

  whole(): Term {
    const term = this.expression()
    if (this.next.kind !== 'end') this.fail('the end')
    for (const doubt of this.feel.doubts) this.doubts.add(doubt)
    return term
  }

  private expression(): Term {
    return this.deeper(() => {
      const start = this.next
      let left = this.operation({ '&': '+' }, () => this.operation({ '+': '+', '-': '-' }, () => this.operation({ '*': '*', '/': '/' }, () => this.operation({ '^': '**' }, () => this.sign()))))
      while (this.next.kind === 'symbol' && COMPARISONS[this.next.text]) {
        const operator = COMPARISONS[this.take().text]!
        const right = this.operation({ '&': '+' }, () => this.operation({ '+': '+', '-': '-' }, () => this.operation({ '*': '*', '/': '/' }, () => this.operation({ '^': '**' }, () => this.sign()))))
        left = comparisonTerm(operator, left, right, this.since(start))
      }
      return left
    })
  }

  private operation(operators: Record<string, ArithmeticOperator>, part: () => Term): Term {
    const start = this.next
    let left = part()
    while (this.next.kind === 'symbol' && operators[this.next.text]) {
      const operator = operators[this.take().text]!
      const [a, b] = [this.feel.value(left), this.feel.value(part())]
      left = value({ kind: 'arithmetic', operator, left: a, right: b, span: this.since(start) })
    }
    return left
  }

  private sign(): Term {
    const start = this.next
    if (this.skipSymbol('+')) return this.deeper(() => this.sign())
    if (!this.skipSymbol('-')) return this.percent()
    const of = this.deeper(() => this.feel.value(this.sign()))
    return negatedValue(of, this.since(start))
  }

  private percent(): Term {
    const start = this.next
    let term = this.primary()
    while (this.skipSymbol('%')) {
      const of = this.feel.value(term)
      const span = this.since(start)
      const hundredth: Node = { kind: 'number', number: '0.01', span }
      term = value({ kind: 'arithmetic', operator: '*', left: of, right: hundredth, span })
    }
    return term
  }

  private primary(): Term {
    const token = this.next
    switch (token.kind) {
      case 'number':
        return numberValue(this.take().text, token)
      case 'text':
        this.take()
        // A formula has no other way to give nothing.
        return token.text === '' ? nullValue(token) : textValue(token.text, token)
      case 'name':
        this.take()
        return this.cells(token)
      case 'word':
        return this.word()
      default: {
        if (this.skipSymbol('{')) return this.array(token)
        if (!this.skipSymbol('(')) return this.fail('a value')
        const term = this.expression()
        this.expectSymbol(')')
        return term
      }
    }
  }

  private word(): Term {
    const token = this.take()
    const name = token.text.toUpperCase()
    if (!this.skipSymbol('(')) {
      if (name === 'TRUE' || name === 'FALSE') return booleanValue(name === 'TRUE', token)
      return this.cells(token)
    }
    const args: Term[] = []
    if (!this.skipSymbol(')')) {
      do args.push(this.isSymbol(';') || this.isSymbol(',') || this.isSymbol(')') ? nullValue(this.next) : this.expression())
      while (this.skipSeparator())
      this.expectSymbol(')')
    }
    return formulaFunction(name, args, this.since(token), this.feel)
  }

  private skipSeparator(): boolean {
    const token = this.next
    if (!this.skipSymbol(';') && !this.skipSymbol(',')) return false
    if (this.separator !== null && token.text !== this.separator) throw notUnderstood('Both “,” and “;” stand between values here. If “,” is meant as a decimal point, write “.” instead, as in 0.5.', token)
    this.separator = token.text
    return true
  }

  /** A cell, or several next to each other in one row: each is a column of its own. */
  private cells(first: ConditionalToken): Term {
    const named = (name: string): Term => value({ kind: 'name', name, span: this.since(first) })
    if (!this.isSymbol(':')) return named(first.text)
    this.take()
    const last = this.take()
    const [from, to] = [CELL.exec(first.text), CELL.exec(last.text)]
    if (!from || !to) throw notUnderstood('A range runs from one cell to another, as in B2:D2.', this.since(first))
    const [, sheet = '', start = '', row] = from
    if (row !== to[3]) throw notUnderstood('A range over several rows is not understood: each record is labelled by what stands in its own row.', this.since(first))
    const columns = Math.abs(columnNumber(to[2]!) - columnNumber(start)) + 1
    if (columns > MOST_CELLS) throw notUnderstood(`A range of more than ${MOST_CELLS} cells is not understood.`, this.since(first))
    const least = Math.min(columnNumber(start), columnNumber(to[2]!))
    return { kind: 'array', rows: [Array.from({ length: columns }, (_, at) => named(`${sheet}${columnName(least + at)}${row}`))], span: this.since(first) }
  }

  /** Clause 5.13: `;` between columns and `|` between rows; with `,` in it as other writers have it, that stands between columns and `;` between rows. */
  private array(start: Span): Term {
    const rows: Term[][] = [[]]
    let hasCommas = false
    do {
      rows.at(-1)!.push(this.expression())
      if (this.isSymbol(',')) hasCommas = true
      if (this.isSymbol('|') || (hasCommas && this.isSymbol(';'))) rows.push([])
    } while (this.skipSymbol(';') || this.skipSymbol(',') || this.skipSymbol('|'))
    this.expectSymbol('}')
    return { kind: 'array', rows, span: this.since(start) }
  }
}

const CELL = /^(.*!)?([A-Za-z]{1,3})(\d+)$/
const MOST_CELLS = 200

/** A is 1, Z 26, AA 27. */
function columnNumber(letters: string): number {
  return [...letters.toUpperCase()].reduce((number, letter) => number * 26 + letter.charCodeAt(0) - 64, 0)
}

function columnName(number: number): string {
  return number > 26 ? `${columnName(Math.floor((number - 1) / 26))}${columnName(((number - 1) % 26) + 1)}` : String.fromCharCode(64 + number)
}
