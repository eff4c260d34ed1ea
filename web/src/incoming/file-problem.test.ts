import { previewTable } from '@dime-gate/interchange/table/preview'
import { problemOf } from './file-problem'

const look = (text: string) => previewTable(new TextEncoder().encode(text), true)

test('what the file itself has wrong is told first', () => expect(problemOf(look('a,b\n1,2\n3\n'))).toMatch(/Line 3/))

test('two columns of one name are told until one of them is named anew, or left out', () => {
  const twins = look('a,a\n1,2\n')
  expect(problemOf(twins)).toMatch(/Columns 1 and 2 are both named “a”/)
  const [first, second] = twins.settings.columns
  expect(problemOf({ ...twins, settings: { ...twins.settings, columns: [first!, { ...second!, name: ' b ' }] } })).toBeNull()
  expect(problemOf({ ...twins, settings: { ...twins.settings, columns: [first!, { ...second!, isLeftOut: true }] } })).toBeNull()
})

test('a column without a name, or no column at all, is told', () => {
  const one = look('a,b\n1,2\n')
  const [first, second] = one.settings.columns
  expect(problemOf({ ...one, settings: { ...one.settings, columns: [first!, { ...second!, name: '  ' }] } })).toMatch(
    /Column 2 has no name/,
  )
  expect(
    problemOf({ ...one, settings: { ...one.settings, columns: [first!, second!].map((column) => ({ ...column, isLeftOut: true })) } }),
  ).toMatch(/no columns/)
})
