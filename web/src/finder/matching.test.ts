import { matchOf } from './matching'

const TEXTS = ['Felling decision', 'Decay band', 'Stem slenderness', 'Street trees', 'Set version', 'Straße der Bäume', 'Add a rule']
const found = (sought: string) => TEXTS.flatMap((text) => { const match = matchOf(sought, text); return match === null ? [] : [{ text, match }] }).toSorted((a, b) => b.match - a.match).map(({ text }) => text)

test.each([
  ['fell', ['Felling decision']],
  ['dec', ['Decay band', 'Felling decision']],
  ['band decay', ['Decay band']],
  ['BAUME', ['Straße der Bäume']],
  ['rule', ['Add a rule']],
  ['nothing such', []],
  ['st', ['Street trees', 'Stem slenderness', 'Straße der Bäume']],
])('“%s” finds what has such words', (sought, expected) => expect(found(sought)).toEqual(expected))

test.each([
  ['one too many', 'fellling'], ['one too few', 'fllin'], ['another', 'fekling'], ['two the wrong way about', 'feliln'],
])('a slip of the finger is forgiven: %s', (_, sought) => expect(found(sought)).toEqual(['Felling decision']))

test('short words are taken as they are', () => {
  expect(found('ade')).toEqual([])
  expect(found('flel decay')).toEqual([])
})

test('nothing is everything', () => expect(found('')).toHaveLength(TEXTS.length))
