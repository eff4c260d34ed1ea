/** Names that nobody bears. */
import type { Chance } from './chance'

const FIRST = ['Bram', 'Ilo', 'Tes', 'Oru', 'Wen', 'Kesh', 'Dal', 'Mira', 'Fen', 'Sul', 'Yar', 'Pell']
const FIRST_END = ['wick', 'ra', 'nna', 'lo', 'dry', 'mund', 'vi', 'sa']
const LAST = ['Thorn', 'Quill', 'Marsh', 'Ember', 'Hazel', 'Drift', 'Copper', 'Lark', 'Stone', 'Willow', 'Harrow', 'Moss']
const LAST_END = ['holt', 'wether', 'fold', 'mere', 'stead', 'acre', 'by', 'low']

/** So many, no two alike. */
export function inventedNames(count: number, luck: Chance): string[] {
  const names = new Set<string>()
  while (names.size < count) names.add(`${luck.one(FIRST)}${luck.one(FIRST_END)} ${luck.one(LAST)}${luck.one(LAST_END)}`)
  return [...names]
}
