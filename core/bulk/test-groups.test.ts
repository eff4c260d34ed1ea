import { dictionaryColumn } from '../table/dictionary-column'
import { numberColumn } from '../table/number-column'
import type { Table } from '../table/table'
import { anInput, rulesGate, TODAY } from '../testing/a-gate'
import { testsOf } from '../rule/condition'
import { lowered } from '../rule/lower'
import { askedTable } from './asked-table'
import { testGroups } from './test-groups'

const INPUTS = [
  anInput('Height', 'number'), anInput('Trunk', 'number'), anInput('Species', 'text'), anInput('Due', 'date'), anInput('Seen', 'date'), anInput('Modules', 'number', { isSet: true }),
  anInput('Late by', 'number', { source: { kind: 'figure', feel: '(today() - Due).days' } }),
]
const one = numberColumn(['1'])
const table: Table = { length: 1, columns: new Map<string, never>([['Height', one], ['Trunk', one], ['Species', dictionaryColumn('text', ['oak'])], ['Due', dictionaryColumn('date', ['2026-03-01'])], ['Seen', dictionaryColumn('date', ['2026-03-01'])], ['Modules', [one]]] as never) }

function groupsOf(...conditions: string[]): string[] {
  const gate = lowered(rulesGate(INPUTS, conditions.map((condition) => [condition, 'a'])))
  return testGroups(askedTable(table, gate, TODAY), gate.rules.flatMap(({ condition }) => testsOf(condition))).map((group) => `${group.key} (${group.kind === 'subject' ? group.grouped.length : group.tests.length})`)
}

test.each([
  [['Height > 3', 'Height <= 5', 'Height in (1, [7..9])', 'Height = null'], ['subject Height (4)']],
  [['Species = "oak"', 'starts with(Species, "o")', 'Species = null'], ['values Species (3)']],
  [['Due < today()', 'Late by > 30'], ['values Due (2)']],
  [['Height > Trunk', 'Height = Trunk'], ['subject Height - Trunk (2)']],
  [['mean([Height, Trunk]) > 3', 'mean([Height, Trunk]) > 5'], ['subject mean([Height, Trunk]) (2)']],
  [['Due + @"P1D" < Seen', 'Due + @"P30D" >= Seen', 'Due = Seen'], ['subject Due - Seen (3)']],
  [['count(Modules[item >= 40]) >= 2', 'count(Modules[item > 50]) > 1', 'count(Modules[item >= 60]) < 2'], ['subject so-manieth from above(Modules, 2) (3)']],
  [['count(Modules[item < 40]) >= 2', 'count(Modules[item < 40]) = 2'], ['subject so-manieth from below(Modules, 2) (1)', 'subject count(Modules[item < 40]) (1)']],
  [['some m in Modules satisfies m < 2', 'some m in Modules satisfies m < 3', 'min(Modules) > 1'], ['subject min(Modules) (3)']],
  [['every m in Modules satisfies m < 2', 'some m in Modules satisfies 5 < m'], ['subject max(Modules) (2)']],
  [['some i in [Height, Trunk] satisfies i > 5'], ['records some i in [Height, Trunk] satisfies i > 5 (1)']],
  [['if Height > 1 then Trunk > 2 else false'], ['records if Height > 1 then Trunk > 2 else false (1)']],
])('%j look at %j', (conditions, expected) => expect(groupsOf(...conditions)).toEqual(expected))
