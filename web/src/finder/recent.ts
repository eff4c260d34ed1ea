/** Where somebody was last, the last place first. */
const KEPT = 'dime-gate.recent'
const MOST = 12

type Kept = Pick<Storage, 'getItem' | 'setItem'>

/** Addresses within the page. */
export function recentPlaces(storage: Kept = localStorage): string[] {
  try {
    const found: unknown = JSON.parse(storage.getItem(KEPT) ?? '[]')
    return Array.isArray(found) ? found.filter((one) => typeof one === 'string') : []
  } catch {
    return []
  }
}

export function noteVisit(path: string, storage: Kept = localStorage): void {
  const [place] = /^\/(?:tables|gates|runs)\/\d+/.exec(path) ?? []
  if (place === undefined) return
  storage.setItem(KEPT, JSON.stringify([place, ...recentPlaces(storage).filter((one) => one !== place)].slice(0, MOST)))
}
