/** A table with a gate that is asked of it: what the makers of classes share. */
import { evaluateOpen } from '../expression/evaluate'
import { isOpen, type Possible } from '../expression/open'
import { freeNames, type Node } from '../expression/tree'
import { type Completions, completionsOf } from '../rule/completions'
import type { Test } from '../rule/condition'
import type { Lowered } from '../rule/rules'
import { recordAt, type Table } from '../table/table'
import type { DateValue } from '../value/value'
import { testVerdict } from '../decide/decide-record'
import { type Facts, factsOf } from '../decide/facts'
import type { Verdict } from '../decide/verdict'
import { inputColumns } from './input-columns'
import type { VectorSources } from './vector'

export interface AskedTable {
  table: Table
  gate: Lowered
  today: DateValue
  vectors: VectorSources
  /** Looked for only where something is open. */
  completions(): ReadonlyMap<string, Completions>
  facts(at: number): Facts
  /** The given inputs that names come down to, through all figures. */
  givenBehind(names: readonly string[]): string[]
}

export function askedTable(table: Table, gate: Lowered, today: DateValue): AskedTable {
  return {
    table, gate, today, vectors: inputColumns(table, gate, today), completions: () => completionsOf(gate, today),
    facts: (at) => factsOf(gate, recordAt(table, at), today),
    givenBehind(names) {
      const found = new Set<string>()
      const visit = (name: string) => {
        const figure = gate.inputs.get(name)?.figure
        if (figure) freeNames(figure).forEach(visit)
        else found.add(name)
      }
      names.forEach(visit)
      return [...found]
    },
  }
}

/** What tests come to for one record, and which inputs are open in it whose completions are ways of these tests. */
export function classFor({ gate, completions }: AskedTable, tests: readonly Test[], facts: Facts): { verdicts: Verdict[]; open: string[] } {
  return { verdicts: tests.map((test) => testVerdict(gate, test, facts)), open: openAmong(completions, tests, facts) }
}

export function openAmong(completions: AskedTable['completions'], tests: readonly Test[], facts: Facts): string[] {
  const texts = new Set(tests.map(({ text }) => text))
  return [...completions().values()].filter((one) => one.tests.some((text) => texts.has(text)) && isOpen(facts.possible(one.input))).map(({ input }) => input)
}

/** An expression in decimals, for one record. */
export function possibleOf(subject: Node, facts: Facts): Possible {
  return evaluateOpen(subject, { value: facts.possible, today: facts.today, shortfallIsOpen: true })
}
