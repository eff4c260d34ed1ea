import { WHITE_SPACE } from './white-space'

test('white space is what is trimmed off, no more and no less', () => {
  const trimmed = Array.from({ length: 0x10000 }, (_, code) => String.fromCharCode(code)).filter((character) => character.trim() === '')
  expect([...WHITE_SPACE]).toEqual(trimmed)
})
