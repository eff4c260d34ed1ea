import { conditionText } from './condition'
import { lower, lowered } from './lower'
import { anInput, rulesGate } from '../testing/a-gate'

describe('named conditions that a gate carries', () => {
  const carrying = (conditions: [name: string, feel: string][], rules: [string, string][] = []) =>
    rulesGate([anInput('Decay', 'number'), anInput('Lean', 'number')], rules, { conditions: conditions.map(([name, feel], at) => ({ id: `${at}`, name, feel })) })

  test('are lowered whether rules use them or not, one within another', () => {
    const { conditions } = lowered(carrying([['Worse', 'Weak or Lean > 20'], ['Weak', 'Decay > 3 and Lean > 5'], ['Unwritten', '']]))
    expect([...conditions].map(([name, condition]) => [name, conditionText(condition)])).toEqual([
      ['Worse', 'Decay > 3 and Lean > 5 or Lean > 20'], ['Weak', 'Decay > 3 and Lean > 5'], ['Unwritten', 'false'],
    ])
  })

  test('leave every other part of a rule at its place', () => {
    const [rule] = lowered(carrying([['Weak', 'Decay > 3 and Lean > 5']], [['Weak and Lean < 50 and not(Weak)', 'x']])).rules
    expect(rule!.condition).toMatchObject({ kind: 'all', of: [{ kind: 'all', of: [{ text: 'Decay > 3' }, { text: 'Lean > 5' }] }, { text: 'Lean < 50' }, { kind: 'not', of: { kind: 'all' } }] })
  })

  test.each([
    ['a name that an input has', [['Decay', 'Lean > 1']], 'repeated-name'],
    ['two of one name', [['Weak', 'Lean > 1'], ['Weak', 'Lean > 2']], 'repeated-name'],
    ['a name that no condition can refer to', [['and', 'Lean > 1']], 'unusable-name'],
    ['a text that is none', [['Weak', 'Lean >']], 'expression'],
    ['a ring', [['A', 'B'], ['B', 'A']], 'condition-loop'],
  ] as [string, [string, string][], string][])('%s is refused', (_, conditions, code) => {
    expect(lower(carrying(conditions))).toMatchObject({ problems: [expect.objectContaining({ code })] })
  })
})
