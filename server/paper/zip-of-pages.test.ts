import { uniqueNames } from './zip-of-pages'

test('names are such as a file can have anywhere, no two of them alike', () => {
  expect(uniqueNames(['Award, Ilo', 'Award, Ilo', 'award, ilo', 'a/b\\c:d*e?f"g<h>i|j', '..', '', 'x'.repeat(300)])).toEqual([
    'Award, Ilo', 'Award, Ilo 2', 'award, ilo 3', 'a-b-c-d-e-f-g-h-i-j', 'slip', 'slip 2', 'x'.repeat(100),
  ])
})
