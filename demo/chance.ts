/** Chance that comes out the same every time: the generator's numbers depend on its seed alone. */

export interface Chance {
  /** Evenly from 0 up to, not including, 1. */
  share(): number
  /** A whole number from `least` to `most`. */
  whole(least: number, most: number): number
  /** Around 0, mostly within ±2 (a sum of uniform numbers; close enough to normal for a demo). */
  spread(): number
  one<Of>(choices: readonly Of[]): Of
  /** One of the choices, as likely as its weight. */
  weighted<Of>(choices: readonly (readonly [Of, number])[]): Of
}

/** Mulberry32, a small generator with a state of 32 bits; good enough to make demo data. */
export function chance(seed: number): Chance {
  let state = seed >>> 0
  const share = () => {
    state = (state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), state | 1)
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61)
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296
  }
  return {
    share,
    whole: (least, most) => least + Math.floor(share() * (most - least + 1)),
    spread: () => (share() + share() + share() + share() - 2) * 1.73,
    one: (choices) => choices[Math.floor(share() * choices.length)]!,
    weighted: (choices) => {
      let left = share() * choices.reduce((sum, [, weight]) => sum + weight, 0)
      return (choices.find(([, weight]) => (left -= weight) < 0) ?? choices[0]!)[0]
    },
  }
}

/** ISO 8601 text of the day `days` after the demo's as-of date. */
export function dayFromAsOf(days: number): string {
  return new Date(Date.UTC(2026, 2, 2 + days)).toISOString().slice(0, 10)
}

export const DEMO_AS_OF = '2026-03-02'
