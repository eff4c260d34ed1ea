/** Where the arrow keys lead among things that lie about on a page. */

export interface Place {
  x: number
  y: number
}

export type Arrow = 'ArrowLeft' | 'ArrowRight' | 'ArrowUp' | 'ArrowDown'

/** Going askew counts more than going far, so that keys keep to a row or a column as long as there is one. */
const ASKEW = 2

/** @returns the place of the nearest thing in that direction; null where there is none */
export function nextTowards(places: readonly Place[], from: number, key: Arrow): number | null {
  const own = places[from]!
  const [sign, along, across] = key === 'ArrowLeft' || key === 'ArrowRight'
    ? [key === 'ArrowRight' ? 1 : -1, 'x' as const, 'y' as const]
    : [key === 'ArrowDown' ? 1 : -1, 'y' as const, 'x' as const]
  let best: { at: number; far: number } | null = null
  places.forEach((place, at) => {
    const ahead = sign * (place[along] - own[along])
    if (at === from || ahead < 1) return
    const far = ahead + ASKEW * Math.abs(place[across] - own[across])
    if (!best || far < best.far) best = { at, far }
  })
  return (best as { at: number } | null)?.at ?? null
}
