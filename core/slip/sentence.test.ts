import fc from 'fast-check'
import { placeFor, saidSentence, sentenceParts, unknownNames } from './sentence'

test('names in braces are put in, all else is said as it stands', () => {
  expect(saidSentence('{Award}, with a mean of { Mean mark } %.', (name) => name.toUpperCase())).toBe('AWARD, with a mean of MEAN MARK %.')
  expect(sentenceParts('Well done.')).toEqual([{ text: 'Well done.' }])
  expect(sentenceParts('')).toEqual([])
})

test('two braces are one, and a brace that nothing closes stands for itself', () => {
  expect(saidSentence('{{Award}} is {Award}', () => 'Merit')).toBe('{Award} is Merit')
  expect(saidSentence('a { b', () => 'x')).toBe('a { b')
  expect(saidSentence('a } b', () => 'x')).toBe('a } b')
})

test('names that stand for nothing are told, each once', () => {
  expect(unknownNames('{Award} {Awrd} {Awrd} {}', ['Award'])).toEqual(['Awrd', ''])
})

test('any name without braces comes back from its place', () => {
  fc.assert(fc.property(fc.string({ minLength: 1 }).filter((name) => !/[{}]/.test(name)).map((name) => name.trim()), (name) => {
    expect(sentenceParts(placeFor(name))).toEqual([{ name }])
  }))
})
