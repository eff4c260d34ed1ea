/** Figures of a table: columns that are computed from its others, in the order in which each comes after all that it needs. */
import { checkExpression } from '../expression/check'
import { namesOf } from '../expression/names'
import { parseExpression } from '../expression/parse'
import type { Problem } from '../expression/problem'
import { substitute } from '../expression/substitute'
import { freeNames, type Node } from '../expression/tree'
import { type Type, typeText } from '../expression/type'
import { dependencyOrder } from '../gate/order'
import { asksForDay } from '../rule/used-inputs'
import type { ValueKind } from '../value/value'

/** A column as expressions see it. */
export interface TableColumn {
  name: string
  kind: ValueKind
  /** How it is computed; null for one whose values are given. */
  feel: string | null
}

/** Columns of numbers under one name: an expression sees the list of the values that are there. */
export interface ColumnSet {
  name: string
  members: readonly string[]
}

/** The same columns with their blanks, as an expression names them. */
export function wholeSetName(set: string): string {
  return `all ${set}`
}

export interface Figure {
  name: string
  kind: ValueKind
  /** As it was written, with `all …` replaced by the columns that it stands for. */
  tree: Node
  /** Given columns that it comes from, by way of other figures too. */
  needs: readonly string[]
  /** Whether it is another on another day. */
  isOfToday: boolean
}

export type FigureTrouble =
  | { code: 'expression'; problem: Problem }
  /** What it comes to is no value of a column. */
  | { code: 'kind'; type: string }
  /** It needs itself, by way of these, each of which needs the next. */
  | { code: 'ring'; names: string[] }
  /** It needs one that has a trouble of its own. */
  | { code: 'beneath'; name: string }

export interface Figures {
  /** In an order in which they can be computed. */
  figures: Figure[]
  troubles: ReadonlyMap<string, FigureTrouble>
}

/** What a column of a table can hold. */
const KINDS: readonly Type[] = ['number', 'text', 'boolean', 'date']

/** @param columns all of a table, figures among them */
export function figuresOf(columns: readonly TableColumn[], sets: readonly ColumnSet[]): Figures {
  const troubles = new Map<string, FigureTrouble>()
  const wholes = new Map(sets.map(({ name, members }) => [wholeSetName(name), listOf(members)]))
  const known = namesOf([...columns.map(({ name }) => name), ...sets.map(({ name }) => name), ...wholes.keys()])
  const parsed = new Map<string, { written: Node; tree: Node }>()
  for (const { name, feel } of columns) {
    if (feel === null) continue
    const result = parseExpression(feel, known)
    if ('problem' in result) troubles.set(name, { code: 'expression', problem: result.problem })
    else parsed.set(name, { written: result.tree, tree: substitute(result.tree, wholes) })
  }
  const membersOf = new Map(sets.map(({ name, members }) => [name, members]))
  const needsOf = (name: string) => freeNames(parsed.get(name)!.tree).flatMap((need) => membersOf.get(need) ?? [need])
  const types = new Map<string, Type>([
    ...columns.filter(({ feel }) => feel === null).map(({ name, kind }): [string, Type] => [name, kind]),
    ...sets.map(({ name }): [string, Type] => [name, { list: 'number' }]),
    ...[...wholes.keys()].map((name): [string, Type] => [name, { list: 'number' }]),
  ])
  const figures = new Map<string, Figure>()
  for (const name of inOrder([...parsed.keys()], needsOf, troubles)) {
    const { written, tree } = parsed.get(name)!
    const needs = needsOf(name)
    const beneath = needs.find((need) => troubles.has(need))
    if (beneath !== undefined) {
      troubles.set(name, { code: 'beneath', name: beneath })
      continue
    }
    const { type, problems } = checkExpression(written, types)
    if (problems[0]) troubles.set(name, { code: 'expression', problem: problems[0] })
    else if (!KINDS.includes(type)) troubles.set(name, { code: 'kind', type: typeText(type) })
    else {
      types.set(name, type)
      const own = needs.map((need) => figures.get(need))
      figures.set(name, {
        name,
        kind: type as ValueKind,
        tree,
        needs: [...new Set(needs.flatMap((need, at) => own[at]?.needs ?? [need]))],
        isOfToday: asksForDay(tree) || own.some((one) => one?.isOfToday),
      })
    }
  }
  return { figures: [...figures.values()], troubles }
}

/** Rings are taken out, one after the other, and told. */
function inOrder(names: readonly string[], needs: (name: string) => readonly string[], troubles: Map<string, FigureTrouble>): string[] {
  let left = names
  for (;;) {
    const order = dependencyOrder(left, needs)
    if ('order' in order) return order.order
    order.loop.forEach((name, at) => troubles.set(name, { code: 'ring', names: [...order.loop.slice(at), ...order.loop.slice(0, at)] }))
    left = left.filter((name) => !order.loop.includes(name))
  }
}

function listOf(names: readonly string[]): Node {
  const span = { from: 0, to: 0 }
  return { kind: 'list', span, items: names.map((name) => ({ kind: 'name', span, name })) }
}
