import { readFile } from 'node:fs/promises'
import { checkExpression } from '@dime-gate/core/expression/check'
import { evaluate } from '@dime-gate/core/expression/evaluate'
import { parseExpression } from '@dime-gate/core/expression/parse'
import type { Type } from '@dime-gate/core/expression/type'
import { parseDate } from '@dime-gate/core/value/temporal'
import type { Value } from '@dime-gate/core/value/value'
import { textOfValue, valueFromText } from '@dime-gate/core/value/value-text'
import { CLIMBER_COURSE_COLUMNS, climberCourse } from './climber-course'
import { DEMO_AS_OF } from './chance'
import { STREET_TREE_COLUMNS, streetTrees } from './street-trees'

const KINDS: Record<string, 'number' | 'date' | 'text'> = { Height: 'number', Trunk: 'number', Lean: 'number', Decay: 'number', Planted: 'date', 'Last inspected': 'date', 'Next due': 'date' }
const facts = new Map<string, { type: Type; value: Value }>()
const [tree] = streetTrees(1)
STREET_TREE_COLUMNS.forEach((header, at) => {
  const name = header.replace(/ \(.*\)$/, '')
  const kind = KINDS[name] ?? 'text'
  facts.set(name, { type: kind, value: valueFromText(tree![at]!, kind) })
})
const [trainee] = climberCourse()
const modules = CLIMBER_COURSE_COLUMNS.flatMap((header, at) => (header.startsWith('Module') ? [valueFromText(trainee![at]!, 'number')] : []))
facts.set('Modules', { type: { list: 'number' }, value: modules.filter((value) => value !== null) })

test('every example of the expression page comes to what the page says', async () => {
  const page = await readFile('docs/expressions.md', 'utf8')
  const rows = [...page.matchAll(/^\| `(.+)` \| `(.*)` \|$/gm)].map(([, expression, result]) => [expression!, result!])
  expect(rows.length).toBeGreaterThan(35)
  const types = new Map([...facts].map(([name, { type }]) => [name, type]))
  const found = rows.map(([expression]) => {
    const parsed = parseExpression(expression!, facts.keys())
    if ('problem' in parsed) return [expression, parsed.problem]
    const { problems } = checkExpression(parsed.tree, types)
    if (problems.length > 0) return [expression, problems]
    const value = evaluate(parsed.tree, { value: (name) => facts.get(name)?.value ?? null, today: parseDate(DEMO_AS_OF)! })
    return [expression, value === null ? 'null' : textOfValue(value)]
  })
  expect(found).toEqual(rows)
})
