/**
 * All that the tests of one input against constants can come to together, whatever its value is: where it is blank,
 * each of these is tried. Two values between the same cuts come to the same, so there are few.
 */
import type { DateValue } from '../value/value'
import { printExpression } from '../expression/print'
import { Remembered } from '../value/remembered'
import { axisOf, inputOf, type SubjectTest, testsBySubject } from './axes'
import type { Lowered, LoweredInput } from './rules'

export interface Completions {
  input: string
  /** The tests' texts. */
  tests: readonly string[]
  /** For each different way the tests can turn out, whether each of them is true. */
  ways: readonly (readonly boolean[])[]
}

const known = new WeakMap<Lowered, { day: number; completions: ReadonlyMap<string, Completions> }>()
/** By all that they hang on: a gate that changes has those of most inputs in common with what it was before. */
const ofInputs = new Remembered<Completions>(64)

/** By input, given or a figure; those that no test asks by themselves are left out. */
export function completionsOf(gate: Lowered, today: DateValue): ReadonlyMap<string, Completions> {
  const before = known.get(gate)
  if (before?.day === today.day) return before.completions
  const completions = new Map<string, Completions>()
  for (const [name, tests] of testsBySubject(gate, today).subjects) {
    const input = inputOf(gate, name, tests[0]![1].subject)
    if (input) completions.set(name, completionsOn(gate, input, tests, today))
  }
  known.set(gate, { day: today.day, completions })
  return completions
}

function completionsOn(gate: Lowered, { name, type, expected, precision, figure }: LoweredInput, given: readonly SubjectTest[], { day }: DateValue): Completions {
  // Rules that change places ask the same.
  const asked = given.toSorted(([a], [b]) => (a.text < b.text ? -1 : 1))
  const tests = asked.map(([{ text }]) => text)
  const key = JSON.stringify([name, type, expected, precision, figure && printExpression(figure), day, tests])
  return ofInputs.of(key, () => ({ input: name, tests, ways: waysOn(gate, name, asked) }))
}

function waysOn(gate: Lowered, name: string, asked: readonly SubjectTest[]): Completions['ways'] {
  const { axis: { regions }, isTrue } = axisOf(gate, name, asked)
  const verdicts = asked.map((_, test) => isTrue(test))
  const ways = regions.map((_, region) => verdicts.map((own) => own[region]!))
  return [...new Map(ways.map((way) => [bitsText(way), way])).values()]
}

/** There are as many as tests times regions: joining words for them would take longer than all else. */
function bitsText(way: readonly boolean[]): string {
  let text = ''
  for (const is of way) text += is ? '1' : '0'
  return text
}

/** Of inputs that are open, as far as some test of the gate asks about them by themselves: one that is not asked any more leaves nothing to try. */
export function openIn(completions: ReadonlyMap<string, Completions>, inputs: readonly string[]): Completions[] {
  return inputs.flatMap((input) => completions.get(input) ?? [])
}

/** More combinations of what blanks could come to than this are not tried: the record is held. */
export const MOST_COMBINED = 256

/** Every combination of the ways of several inputs, as what each test comes to; none where they are too many. */
export function* combinations(open: readonly Completions[]): Generator<ReadonlyMap<string, boolean>> {
  const count = open.reduce((product, { ways }) => product * ways.length, 1)
  if (count > MOST_COMBINED) return
  for (let at = 0; at < count; at++) {
    const verdicts = new Map<string, boolean>()
    let left = at
    for (const { tests, ways } of open) {
      const way = ways[left % ways.length]!
      left = Math.floor(left / ways.length)
      tests.forEach((text, test) => verdicts.set(text, way[test]!))
    }
    yield verdicts
  }
}
