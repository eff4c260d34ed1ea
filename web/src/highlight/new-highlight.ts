/** A highlight to begin with: one that looks like none of the others. */
import { MARKS } from '@dime-gate/core/gate/mark'
import { paletteColours } from '@dime-gate/core/gate/palette'
import type { Highlight } from '@dime-gate/core/highlight/highlight'

const COLOURS = ['#8e3424', '#3f5d86', ...paletteColours('unordered', 10)]

export function newHighlight(others: readonly Pick<Highlight, 'colour' | 'mark'>[]): Highlight {
  const free = <Look>(looks: readonly Look[], taken: readonly Look[]) => looks.find((one) => !taken.includes(one)) ?? looks[others.length % looks.length]!
  return {
    name: '', condition: '', on: null, isException: false,
    colour: free(COLOURS, others.map(({ colour }) => colour)),
    mark: free(MARKS.toReversed(), others.map(({ mark }) => mark)),
  }
}
