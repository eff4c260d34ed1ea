/** SQL expressions (ISO/IEC 9075-2 clause 6, and PostgreSQL's spellings) to terms: CASE, and what stands in one. */
import type { ArithmeticOperator } from '@dime-gate/core/value/arithmetic'
import type { ComparisonOperator, Node, Span } from '@dime-gate/core/expression/tree'
import { parseDate } from '@dime-gate/core/value/temporal'
import { ConditionalCursor, conditionalTokens, type TokenRule } from './cursor'
import { booleanValue, callValue, dateValue, negatedValue, nullValue, numberValue, textValue, value } from './nodes'
import { cast, type SqlType } from './sql-casts'
import { remainder, sqlFunction } from './sql-functions'
import { like } from './sql-like'
import { notUnderstood, type Term } from './term'
import { ToFeel } from './to-feel'

const TOKENS: TokenRule[] = [
  { kind: 'skip', pattern: /(?:\s|--[^\n]*|\/\*[^]*?\*\/)+/y },
  { kind: 'number', pattern: /(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d+)?/y },
  { kind: 'text', pattern: /'(?:[^']|'')*'/y, value: (written) => written.slice(1, -1).replaceAll("''", "'") },
  { kind: 'name', pattern: /"(?:[^"]|"")+"/y, value: (written) => written.slice(1, -1).replaceAll('""', '"') },
  // As some databases quote names.
  { kind: 'name', pattern: /`(?:[^`]|``)+`/y, value: (written) => written.slice(1, -1).replaceAll('``', '`') },
  { kind: 'name', pattern: /\[[^[\]]+\]/y, value: (written) => written.slice(1, -1) },
  { kind: 'word', pattern: /[\p{L}_][\p{L}\p{N}_$]*/uy },
  { kind: 'symbol', pattern: /<>|!=|<=|>=|\|\||::|[-+*/%=<>(),.;^]/y },
]
const RESERVED = ['CASE', 'WHEN', 'THEN', 'ELSE', 'END', 'AND', 'OR', 'NOT', 'IS', 'IN', 'BETWEEN', 'LIKE', 'ILIKE', 'NULL', 'TRUE', 'FALSE', 'AS', 'SELECT', 'FROM', 'WHERE', 'COLLATE', 'DISTINCT', 'EXISTS', 'ANY', 'ALL', 'UNION', 'JOIN', 'GROUP', 'ORDER']
const COMPARISONS: Record<string, ComparisonOperator> = { '=': '=', '<>': '!=', '!=': '!=', '<': '<', '<=': '<=', '>': '>', '>=': '>=' }

/** @throws ConditionalError at the first thing that is not understood */
export function readSql(text: string): Term {
  return new SqlReader(conditionalTokens(text, TOKENS)).whole()
}

class SqlReader extends ConditionalCursor {
  private readonly feel = new ToFeel()

  whole(): Term {
    const term = this.skipWord('SELECT') ? this.selected() : this.expression()
    if (this.skipWord('AS')) this.take()
    this.skipSymbol(';')
    if (this.next.kind !== 'end') this.fail('the end')
    return term
  }

  /** Of what is selected the one conditional. Which records it is selected for is no part of a gate. */
  private selected(): Term {
    const start = this.next
    const terms: Term[] = []
    do {
      if (this.skipSymbol('*')) continue
      terms.push(this.expression())
      if (this.skipWord('AS') || this.next.kind === 'name' || (this.next.kind === 'word' && !this.isWord('FROM'))) this.take()
    } while (this.skipSymbol(','))
    const choices = terms.filter(({ kind }) => kind === 'choice')
    const [term] = terms.length === 1 ? terms : choices
    if (!term || (terms.length > 1 && choices.length > 1)) throw notUnderstood(`One CASE should stand behind SELECT; there ${choices.length === 0 ? 'is none' : `are ${choices.length}`}.`, this.since(start))
    if (this.skipWord('FROM')) this.source()
    return term
  }

  private source(): void {
    this.column()
    if (this.skipWord('AS') || this.next.kind === 'name' || (this.next.kind === 'word' && !this.isWord('WHERE', 'JOIN', 'INNER', 'LEFT', 'RIGHT', 'FULL', 'CROSS', 'GROUP', 'ORDER', 'HAVING', 'LIMIT', 'UNION'))) this.take()
    if (this.next.kind === 'word' || this.isSymbol(',')) throw notUnderstood(`Only one table is understood behind FROM, and all of its records: “${this.next.text}” would choose or change them. Leave it out.`, this.next)
  }

  private expression(): Term {
    return this.deeper(() => this.chain('OR', () => this.chain('AND', () => this.negation())))
  }

  private chain(word: 'AND' | 'OR', part: () => Term): Term {
    const start = this.next
    const of = [part()]
    while (this.skipWord(word)) of.push(part())
    return of.length === 1 ? of[0]! : { kind: word === 'AND' ? 'and' : 'or', of, span: this.since(start) }
  }

  private negation(): Term {
    const start = this.next
    if (!this.skipWord('NOT')) return this.predicate()
    return this.deeper(() => ({ kind: 'not', of: this.negation(), span: this.since(start) }))
  }

  private predicate(): Term {
    const start = this.next
    let left = this.sum()
    for (;;) {
      const operator = this.next.kind === 'symbol' ? COMPARISONS[this.next.text] : undefined
      if (operator) {
        this.take()
        left = { kind: 'comparison', operator, left, right: this.sum(), span: this.since(start) }
      } else if (this.skipWord('IS')) left = this.is(left, start)
      else if (this.isWord('NOT', 'BETWEEN', 'IN', 'LIKE', 'ILIKE')) left = this.range(left, start)
      else return left
    }
  }

  private is(of: Term, start: Span): Term {
    const isNegated = this.skipWord('NOT')
    const span = () => this.since(start)
    const turned = (term: Term): Term => (isNegated ? { kind: 'not', of: term, span: span() } : term)
    if (this.skipWord('NULL') || this.skipWord('UNKNOWN')) return turned({ kind: 'is null', of, span: span() })
    if (this.isWord('TRUE', 'FALSE')) {
      const truth = this.take().text.toUpperCase() === 'TRUE'
      return turned({ kind: 'is', of, truth, span: span() })
    }
    this.expectWord('DISTINCT')
    this.expectWord('FROM')
    const right = this.sum()
    return turned({ kind: 'is distinct', left: of, right, span: span() })
  }

  private range(of: Term, start: Span): Term {
    const isNegated = this.skipWord('NOT')
    const turned = (term: Term): Term => (isNegated ? { kind: 'not', of: term, span: this.since(start) } : term)
    const compared = (operator: ComparisonOperator, right: Term): Term => ({ kind: 'comparison', operator, left: of, right, span: this.since(start) })
    if (this.skipWord('BETWEEN')) {
      const low = this.sum()
      this.expectWord('AND')
      const high = this.sum()
      return turned({ kind: 'and', of: [compared('>=', low), compared('<=', high)], span: this.since(start) })
    }
    if (this.skipWord('IN')) {
      this.expectSymbol('(')
      const items = this.list()
      return turned({ kind: 'or', of: items.map((item) => compared('=', item)), span: this.since(start) })
    }
    const folds = this.skipWord('ILIKE')
    if (!folds) this.expectWord('LIKE')
    const pattern = this.take()
    if (pattern.kind !== 'text' || this.isWord('ESCAPE')) throw notUnderstood('A pattern is only understood as a text in quotes, without ESCAPE.', pattern)
    return turned(like(of, pattern, folds, this.since(start), this.feel))
  }

  private sum(): Term {
    return this.operation({ '+': '+', '-': '-', '||': '+' }, () => this.operation({ '*': '*', '/': '/', '%': '%' }, () => this.operation({ '^': '**' }, () => this.sign())))
  }

  private operation(operators: Record<string, ArithmeticOperator | '%'>, part: () => Term): Term {
    const start = this.next
    let left = part()
    while (this.next.kind === 'symbol' && operators[this.next.text]) {
      const operator = operators[this.take().text]!
      const [a, b] = [this.feel.value(left), this.feel.value(part())]
      const span = this.since(start)
      left = operator === '%' ? remainder(value(a), value(b), span, this.feel) : value({ kind: 'arithmetic', operator, left: a, right: operator === '/' ? withoutNullIf(b) : b, span })
    }
    return left
  }

  private sign(): Term {
    const start = this.next
    if (this.skipSymbol('+')) return this.deeper(() => this.sign())
    if (!this.skipSymbol('-')) return this.suffixed()
    const of = this.deeper(() => this.feel.value(this.sign()))
    return negatedValue(of, this.since(start))
  }

  /** What may stand behind a value: a type that it is brought to, and an order of texts, which changes nothing that is compared here. */
  private suffixed(): Term {
    let term = this.primary()
    for (;;) {
      if (this.skipSymbol('::')) term = cast(term, this.type(), this.feel)
      else if (this.skipWord('COLLATE')) this.take()
      else return term
    }
  }

  private type(): SqlType {
    const first = this.take()
    if (first.kind !== 'word') throw notUnderstood('The name of a type is missing.', first)
    while (this.isWord('PRECISION', 'VARYING')) this.take()
    const sizes: string[] = []
    if (this.skipSymbol('(')) {
      while (!this.skipSymbol(')')) {
        const token = this.take()
        if (token.kind === 'end') this.fail('“)”')
        if (token.kind === 'number') sizes.push(token.text)
      }
    }
    return { name: first.text.toUpperCase(), sizes, span: this.since(first) }
  }

  private primary(): Term {
    const token = this.next
    switch (token.kind) {
      case 'number':
        return numberValue(this.take().text, token)
      case 'text':
        return textValue(this.take().text, token)
      case 'name':
        return this.column()
      case 'word':
        return this.word()
      default: {
        if (!this.skipSymbol('(')) return this.fail('a value')
        const term = this.expression()
        this.expectSymbol(')')
        return term
      }
    }
  }

  private word(): Term {
    const token = this.next
    const word = token.text.toUpperCase()
    const after = this.tokens[this.at + 1]!
    switch (word) {
      case 'CASE':
        return this.deeper(() => this.choice())
      case 'NULL': case 'UNKNOWN':
        this.take()
        return nullValue(token)
      case 'TRUE': case 'FALSE':
        this.take()
        return booleanValue(word === 'TRUE', token)
      case 'INTERVAL':
        if (after.kind !== 'text') break
        this.take()
        return this.interval()
      case 'CURRENT_DATE':
        this.take()
        return callValue('today', [], token)
      case 'DATE':
        if (after.kind !== 'text') break
        this.take()
        return this.date()
      default:
    }
    if (after.kind === 'symbol' && after.text === '(' && !RESERVED.includes(word)) return this.call()
    if (RESERVED.includes(word)) return this.fail('a value')
    return this.column()
  }

  /** `'30' DAY`, or `'30 days'` as PostgreSQL has it. */
  private interval(): Term {
    const token = this.take()
    const unit = this.isWord('DAY', 'DAYS', 'WEEK', 'WEEKS', 'MONTH', 'MONTHS', 'YEAR', 'YEARS') ? this.take().text : ''
    const [, count, letter] = /^\s*(-?\d{1,6})\s*(day|week|month|year)s?\s*$/i.exec(`${token.text} ${unit}`) ?? []
    if (!count || !letter) throw notUnderstood("An interval is only understood as in INTERVAL '30' DAY, in days, weeks, months or years.", token)
    const isWeeks = letter.toLowerCase() === 'week'
    const length = `P${Math.abs(Number(count)) * (isWeeks ? 7 : 1)}${isWeeks ? 'D' : letter.charAt(0).toUpperCase()}`
    return dateValue(Number(count) < 0 ? `-${length}` : length, this.since(token))
  }

  private date(): Term {
    const token = this.take()
    if (!parseDate(token.text)) throw notUnderstood(`“${token.text}” is no date, as in 2026-03-02.`, token)
    return dateValue(token.text, token)
  }

  /** The last part of a name says the column; those before it say the table. */
  private column(): Term {
    const start = this.next
    let name = this.take().text
    while (this.skipSymbol('.')) {
      if (this.next.kind !== 'word' && this.next.kind !== 'name') this.fail('the name of a column')
      name = this.take().text
    }
    return value({ kind: 'name', name, span: this.since(start) })
  }

  private choice(): Term {
    const start = this.take()
    const of = this.isWord('WHEN') ? null : this.expression()
    const whens: { when: Term; then: Term }[] = []
    while (this.skipWord('WHEN')) {
      const written = this.expression()
      const when: Term = of ? { kind: 'comparison', operator: '=', left: of, right: written, span: written.span } : written
      this.expectWord('THEN')
      whens.push({ when, then: this.expression() })
    }
    if (whens.length === 0) this.fail('WHEN')
    const otherwise = this.skipWord('ELSE') ? this.expression() : null
    this.expectWord('END')
    return { kind: 'choice', whens, otherwise, span: this.since(start) }
  }

  private list(): Term[] {
    if (this.skipSymbol(')')) return []
    const items = [this.expression()]
    while (this.skipSymbol(',')) items.push(this.expression())
    this.expectSymbol(')')
    return items
  }

  private call(): Term {
    const start = this.take()
    const name = start.text.toUpperCase()
    this.expectSymbol('(')
    if (name === 'CAST') {
      const of = this.expression()
      this.expectWord('AS')
      const type = this.type()
      this.expectSymbol(')')
      return cast(of, type, this.feel)
    }
    if (name === 'SUBSTRING' || name === 'SUBSTR') return this.substring(start)
    if (name === 'EXTRACT') return this.extract(start)
    if (name === 'POSITION') {
      const part = this.sum()
      this.expectWord('IN')
      const [whole] = [this.sum()]
      this.expectSymbol(')')
      return this.contained(part, whole, start)
    }
    const args = this.list()
    return sqlFunction(name, args, this.since(start), this.feel)
  }

  /** `FROM` and `FOR` are words for the commas (clause 6.32). */
  private substring(start: Span): Term {
    const parts = [this.expression()]
    while (this.skipSymbol(',') || this.skipWord('FROM') || this.skipWord('FOR')) parts.push(this.expression())
    this.expectSymbol(')')
    const span = this.since(start)
    const [of, from, length] = parts.map((part) => this.feel.value(part))
    if (from?.kind !== 'number' || Number(from.number) < 1 || parts.length > 3) throw notUnderstood('SUBSTRING is only understood from a plain number from 1 on, as in SUBSTRING(x FROM 2 FOR 3).', span)
    return callValue('substring', [of!, from, ...(length ? [length] : [])], span)
  }

  private extract(start: Span): Term {
    const field = this.take()
    const property = { YEAR: 'year', MONTH: 'month', DAY: 'day', ISODOW: 'weekday' }[field.text.toUpperCase()]
    if (!property) throw notUnderstood(`“${field.text}” of a date is not understood; YEAR, MONTH, DAY and ISODOW are.`, field)
    this.expectWord('FROM')
    const of = this.feel.value(this.sum())
    this.expectSymbol(')')
    return value({ kind: 'path', of, name: property, span: this.since(start) })
  }

  /** A position is only understood as the question whether there is one. */
  private contained(part: Term, whole: Term, start: Span): Term {
    const isAsked = (this.isSymbol('>') && this.tokens[this.at + 1]!.text === '0') || ((this.isSymbol('<>') || this.isSymbol('!=')) && this.tokens[this.at + 1]!.text === '0')
    if (!isAsked) throw notUnderstood('POSITION is only understood when it is compared as in POSITION(a IN b) > 0.', this.since(start))
    this.at += 2
    return callValue('contains', [this.feel.value(whole), this.feel.value(part)], this.since(start))
  }
}

/** `x / NULLIF(y, 0)` is what `x / y` comes to in FEEL. */
function withoutNullIf(node: Node): Node {
  const isGuard = node.kind === 'if' && node.then.kind === 'null' && node.condition.kind === 'comparison' && node.condition.operator === '=' && node.condition.right.kind === 'number' && Number(node.condition.right.number) === 0
  return isGuard ? node.otherwise : node
}
