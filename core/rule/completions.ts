/**
 * All that the tests of one input against constants can come to together, whatever its value is: where it is blank,
 * each of these is tried. Two values between the same cuts come to the same, so there are few.
 */
import type { DateValue } from '../value/value'
import { spaceOf } from './axes'
import type { Lowered } from './rules'

export interface Completions {
  input: string
  /** The tests' texts. */
  tests: readonly string[]
  /** For each different way the tests can turn out, whether each of them is true. */
  ways: readonly (readonly boolean[])[]
}

const known = new WeakMap<Lowered, { day: number; completions: ReadonlyMap<string, Completions> }>()

/** By input, given or a figure; those that no test asks by themselves are left out. */
export function completionsOf(gate: Lowered, today: DateValue): ReadonlyMap<string, Completions> {
  const before = known.get(gate)
  if (before?.day === today.day) return before.completions
  const { axes, places } = spaceOf(gate, today)
  const tests = axes.map((): string[] => [])
  for (const [text, { axis }] of places) tests[axis]!.push(text)
  const completions = new Map<string, Completions>()
  axes.forEach(({ name, isInput, regions }, axis) => {
    if (!isInput) return
    const ways = regions.map((_, region) => tests[axis]!.map((text) => places.get(text)!.isTrue[region]!))
    const different = new Map(ways.map((way) => [bitsText(way), way]))
    completions.set(name, { input: name, tests: tests[axis]!, ways: [...different.values()] })
  })
  known.set(gate, { day: today.day, completions })
  return completions
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
