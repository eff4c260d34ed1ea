/**
 * Classes of records under tests that look at one thing: records of one class are alike to all of these tests.
 * What a gate makes of a record depends on its classes alone.
 */
import type { Test } from '../rule/condition'
import type { Verdict } from '../decide/verdict'
import type { AddClasses, RecordNumbers } from './record-numbers'

export interface TestClasses {
  readonly tests: readonly Test[]
  readonly addTo: AddClasses
  /** By class what each test comes to. */
  readonly verdicts: readonly (readonly Verdict[])[]
  /** The classes that some value would be in, ascending, where what moved has left others behind. */
  readonly inUse?: readonly number[]
  /** By class the inputs that are open in it, of those whose completions are ways of these tests (see `Completions`). */
  readonly open: readonly (readonly string[])[]
}

/** Records that are in another class now, and by how much its number is another. */
export interface Changed {
  places: Uint32Array
  steps: Int32Array
}

/** Those of some classes that are there, ascending. */
export function inUse(classOf: Uint32Array): number[] {
  return [...new Set(classOf)].toSorted((a, b) => a - b)
}

/** Classes as they are met. */
export class ClassList {
  readonly verdicts: (readonly Verdict[])[] = []
  readonly open: (readonly string[])[] = []
  private readonly places = new Map<string, number>()

  /** The class of records to which the tests come to `verdicts` while `open` is open. */
  placeOf(verdicts: readonly Verdict[], open: readonly string[]): number {
    const key = `${verdicts.join('')} ${open.join('\n')}`
    const known = this.places.get(key)
    if (known !== undefined) return known
    this.places.set(key, this.verdicts.length)
    this.open.push(open)
    return this.verdicts.push(verdicts) - 1
  }
}

/** Classes that are known record by record. */
export function addClasses(numbers: RecordNumbers, classes: RecordNumbers, width: number, from: number): void {
  const { length } = numbers
  for (let at = 0; at < length; at++) numbers[at] = Math.imul(numbers[at]!, width) + classes[from + at]!
}
