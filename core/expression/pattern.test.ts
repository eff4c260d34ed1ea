import fc from 'fast-check'
import { compilePattern, findMatch } from './pattern'

const match = (pattern: string, text: string, flags = '') => {
  const found = findMatch(compilePattern(pattern, flags)!, [...text])
  return found && found.groups
}

test.each([
  ['ab*c', 'xabbbc', ['abbbc']], ['a|ab', 'ab', ['a']], ['(a)|(b)', 'b', ['b', null, 'b']], ['a.c', 'a\nc', null], ['^b', 'ab', null], ['a+?', 'aaa', ['a']],
  ['(\\d{2,3})-?', '12345', ['123', '123']], ['[a-c-[b]]+', 'abc', ['a']], ['[^a-c]', 'abcd', ['d']], ['\\p{Lu}\\p{Ll}+', 'the Elm', ['Elm']], ['\\s', 'ab', null],
  ['[\\]\\-]', '-', ['-']], ['(?:ab)+', 'abab', ['abab']], ['x{0}y', 'xy', ['y']], ['🌳+', '🌳🌳', ['🌳🌳']], ['(a|b)*c', 'abac', ['abac', 'a']], ['', 'a', ['']],
] as const)('%s in %j', (pattern, text, groups) => expect(match(pattern, text)).toEqual(groups))

test('flags: letters of either case, dots over lines, line ends, free spacing', () => {
  expect([match('OAK', 'oak', 'i'), match('a.c', 'a\nc', 's'), match('^b$', 'a\nb\nc', 'm'), match('a b', 'ab', 'x')]).toEqual([['oak'], ['a\nc'], ['b'], ['ab']])
})

test.each(['(', ')', '[', '[]', 'a**', '*a', 'a{2,1}', 'a{', '\\', '\\q', '\\1', '[b-a]', '\\p{Tree}', 'a{5000}', '(?=a)', '^*'])('%s is no pattern', (pattern) => expect(compilePattern(pattern)).toBeNull())

test('where the platform reads a pattern the same way, the match is the same', () => {
  const atom = fc.constantFrom('a', 'b', '.', '[ab]', '(a|b)', '(?:ab)', '[^a]', 'c')
  const part = fc.tuple(atom, fc.constantFrom('', '*', '+', '?', '{1,2}', '*?', '+?')).map((pair) => pair.join(''))
  const pattern = fc.array(part, { minLength: 1, maxLength: 4 }).chain((parts) => fc.constantFrom(parts.join(''), parts.join('|'), `^${parts.join('')}$`))
  fc.assert(fc.property(pattern, fc.string({ unit: fc.constantFrom('a', 'b', 'c'), maxLength: 8 }), (pattern, text) => {
    const found = findMatch(compilePattern(pattern)!, [...text])
    const expected = new RegExp(pattern, 'u').exec(text)
    expect(found && [found.from, found.groups[0]]).toEqual(expected && [expected.index, expected[0]])
  }), { numRuns: 2000 })
})
