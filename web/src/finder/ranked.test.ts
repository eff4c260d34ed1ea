import type { Command } from './commands'
import { keyWords, ranked } from './ranked'

const act = () => undefined
const COMMANDS: Command[] = [{ words: 'Add a rule', key: 'n', act }, { words: 'Remove the rule', key: 'Delete', act, isOff: () => true }, { words: 'Set a version', key: 's', act }]
const PLACES = [
  { words: 'Decay band', detail: 'gate on Street trees', path: '/gates/1' },
  { words: 'Street trees', detail: 'table, 1,240 records', path: '/tables/1' },
  { words: 'Street works', detail: 'table, 3 records', path: '/tables/2' },
]
const words = (sought: string, recent: string[] = []) => ranked(sought, COMMANDS, PLACES, recent).map((one) => one.words)

test('without a word, what can be done here comes first, then where one was last', () => {
  expect(words('', ['/tables/2', '/runs/9'])).toEqual(['Add a rule', 'Set a version', 'Street works', 'Decay band', 'Street trees'])
})

test('a name tells more than what kind of thing it is', () => expect(words('street')).toEqual(['Street trees', 'Street works', 'Decay band']))
test('of two alike the one comes first where one was last', () => expect(words('street', ['/tables/2'])[0]).toBe('Street works'))
test('the kind can be said too', () => expect(words('table street').toSorted()).toEqual(['Street trees', 'Street works']))
test('what cannot be done now is not offered', () => expect(words('rule')).toEqual(['Add a rule']))
test('keys are told as they are printed', () => expect(['n', 'U', 'Escape', 'Delete', '/'].map(keyWords)).toEqual(['N', '⇧U', 'Esc', 'Del', '/']))
