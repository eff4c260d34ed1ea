import { type Field, put, stand } from './v-stands'

const ownerDocument: Field['ownerDocument'] = { activeElement: null }
const fieldWith = (text: string): Field => {
  const field = { value: '', ownerDocument }
  stand(field, text)
  return field
}
beforeEach(() => void (ownerDocument.activeElement = null))

test('what is bound stands in the field', () => {
  const field = fieldWith('Low')
  expect(field.value).toBe('Low')
  stand(field, 'Sound')
  expect(field.value).toBe('Sound')
})

test('a word that is being typed stays, whatever is drawn anew, and what is bound meanwhile as well', () => {
  const field = fieldWith('Low')
  ownerDocument.activeElement = field
  field.value = 'Sou'
  stand(field, 'Low')
  expect(field.value).toBe('Sou')
  stand(field, 'Lower')
  expect(field.value).toBe('Sou')
})

test('a field that is only looked at follows', () => {
  const field = fieldWith('Low')
  ownerDocument.activeElement = field
  stand(field, 'Sound')
  expect(field.value).toBe('Sound')
})

test('what was typed and not taken gives way once the field is left', () => {
  const field = fieldWith('Low')
  ownerDocument.activeElement = field
  field.value = '  '
  stand(field, 'Low')
  expect(field.value).toBe('  ')
  ownerDocument.activeElement = null
  stand(field, 'Low')
  expect(field.value).toBe('Low')
})

test('what was typed and taken stands there by itself from then on', () => {
  const field = fieldWith('Low')
  ownerDocument.activeElement = field
  field.value = 'Sound'
  stand(field, 'Sound')
  stand(field, 'Weak')
  expect(field.value).toBe('Weak')
  field.value = '12.50'
  put(field, '12.5')
  stand(field, '13')
  expect(field.value).toBe('13')
})
