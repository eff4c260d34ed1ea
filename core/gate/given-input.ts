import type { ValueKind } from '../value/value'
import type { Input } from './document'

/** What a table gives, as it was measured, and held where it is blank: what a first gate looks at. */
export function givenInput(name: string, type: ValueKind, unit = ''): Input {
  return { name, type, isSet: false, unit, source: { kind: 'given' }, expected: null, precision: { kind: 'as measured' }, tolerance: null, blank: null }
}
