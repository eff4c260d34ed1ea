import { editDistance, namesOf, nameTrouble, nearestName } from './names'
import { quoted, tokensOf } from './tokens'

const matched = (known: string[], text: string) => namesOf(known).match(tokensOf(text), 0)?.name ?? null

test.each([
  [['Trunk', 'Trunk cm'], 'Trunk cm > 5', 'Trunk cm'],
  [['Trunk', 'Trunk cm'], 'Trunk > 5', 'Trunk'],
  [['Trunk cm'], 'Trunk', null],
  [['Trunk cm'], 'Trunk    cm', 'Trunk cm'],
  [['Module 1', 'Module 10'], 'Module 10', 'Module 10'],
  [['Height/Trunk', 'Height'], 'Height/Trunk', 'Height/Trunk'],
  [['Height/Trunk', 'Height'], 'Height / Trunk', 'Height'],
  [['Trunk and branch', 'Trunk'], 'Trunk and branch', 'Trunk and branch'],
  [['Schaden (neu)'], 'Schaden', null],
])('of %j, %s begins with %s', (known, text, name) => expect(matched(known, text)).toBe(name))

test.each([
  ['Trunk cm', null], ['Größe', null], ['Crew’s climb', null], ['Height/Trunk', null], ['Trunk and branch', null], ['_id', null],
  ['', 'empty'], ['  ', 'empty'], ['and', 'keyword'], ['null', 'keyword'], ['item', 'keyword'], ['2 week check', 'begins-with-figure'],
  ['Decay (%)', 'sign'], ['Decay %', 'sign'], ['a "b"', 'sign'], ['a, b', 'sign'],
])('the name %j: %s', (name, trouble) => expect(nameTrouble(name)).toBe(trouble))

test.each([
  ['Specis', ['Species', 'Spacing'], 'Species'],
  ['decay', ['Decay', 'Delay'], 'Decay'],
  ['Wrad', ['Ward'], 'Ward'],
  ['Height', ['Weight of stem', 'Lean'], null],
  ['x', ['y'], 'y'],
])('nearest to %s of %j is %s', (name, known, nearest) => expect(nearestName(name, known)).toBe(nearest))

test('distances count letters put in, left out, exchanged and swapped', () => {
  expect([['oak', 'oak'], ['oak', 'oaks'], ['oak', 'ok'], ['oak', 'osk'], ['oak', 'oka'], ['oak', 'elm']].map(([a, b]) => editDistance(a!, b!))).toEqual([0, 1, 1, 1, 1, 3])
})

test('tokens know their place, and whether they stand apart', () => {
  const tokens = tokensOf('a1<= "x\\u0041\\n" // rest\n..5.e')
  expect(tokens.map(({ kind, text, from, to, apart }) => [kind, text, from, to, apart])).toEqual([
    ['word', 'a1', 0, 2, false], ['symbol', '<=', 2, 4, false], ['text', 'xA\n', 5, 16, true],
    ['symbol', '..', 25, 27, true], ['number', '5', 27, 28, false], ['symbol', '.', 28, 29, false], ['word', 'e', 29, 30, false], ['end', '', 30, 30, false],
  ])
})

test.each(['', 'plain', 'a "b"', 'back\\slash', 'line\nbreak\ttab\r', '🌳'])('%j quoted is read as itself', (text) => expect(tokensOf(quoted(text))[0]).toMatchObject({ kind: 'text', text }))
