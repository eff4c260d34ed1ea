/** What is found, the best first. */
import type { Command } from './commands'
import { matchOf } from './matching'
import type { Found } from './places'

export interface Ranked extends Found {
  command?: Command
}

const MOST = 60

/**
 * @param recent addresses where somebody was last; where nothing is looked for, those come after what can be done here
 * @returns commands that can be done now, and places
 */
export function ranked(sought: string, commands: readonly Command[], places: readonly Found[], recent: readonly string[]): Ranked[] {
  const acts = commands.filter(({ isOff }) => !isOff?.()).map((command): Ranked => ({ words: command.words, detail: '', command }))
  if (sought.trim() === '') return [...acts, ...recent.flatMap((path) => places.filter((place) => place.path === path)), ...places.filter(({ path }) => !recent.includes(path!))].slice(0, MOST)
  const lately = (path: string | undefined) => (path !== undefined && recent.includes(path) ? 0.3 : 0)
  return [...acts, ...places]
    .flatMap((one) => {
      // What kind of thing it is may be said too, and tells less than its name.
      const [byName, byAll] = [matchOf(sought, one.words), matchOf(sought, `${one.words} ${one.detail}`)]
      return byAll === null ? [] : [{ one, match: (byName ?? byAll - 1) + lately(one.path) }]
    })
    .toSorted((a, b) => b.match - a.match)
    .slice(0, MOST)
    .map(({ one }) => one)
}

const KEY_WORDS: Record<string, string> = { Escape: 'Esc', Delete: 'Del' }

/** A key as it is printed. */
export function keyWords(key: string): string {
  return KEY_WORDS[key] ?? (/^[A-Z]$/.test(key) ? `⇧${key}` : key.toUpperCase())
}
