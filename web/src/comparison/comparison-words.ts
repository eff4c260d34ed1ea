/** What was found of two runs, in words. */
import type { Comparison, KeptMove, MoveReason } from '@dime-gate/contract/comparison'
import type { Differences } from '@dime-gate/contract/run'
import type { Cause } from '@dime-gate/core/compare/causes'
import { count, counted, date } from '../shared/format'
import { listed } from '../shared/words'
import type { Place } from './flows'

const CAUSE_WORDS: Record<Cause, string> = {
  gate: 'the gate changed', binding: 'another column stands for an input', figure: 'a figure is computed otherwise', date: 'the date moved', value: 'a value changed', 'blank filled': 'a blank was filled', drawn: 'what comes from another table changed',
}

export function placeWords(place: Place, isLater: boolean): string {
  if (place === null) return isLater ? 'gone' : 'not there yet'
  return place.kind === 'label' ? place.label || 'no value' : place.kind
}

/** Why records moved; each set of causes by itself explains it. */
export function reasonText({ sets }: Pick<MoveReason, 'sets'>): string {
  if (sets.length === 0) return 'not explained by what was kept'
  const words = sets.map((set) => listed(set.map((cause) => CAUSE_WORDS[cause])))
  return words.length === 1 ? words[0]! : words.join(', or ')
}

/** What is to be known of it beyond the causes. */
export function reasonRemark({ sets }: Pick<MoveReason, 'sets'>): string {
  if (sets.length === 0) return 'a figure beneath another, or another table, is not kept as it was'
  if (sets.length > 1) return 'each by itself would do'
  return sets[0]!.length > 1 ? 'only together; none of them alone' : ''
}

export interface RankMoves {
  up: number
  down: number
}

/** Where labels have ranks, how many records went to a higher one, and to a lower one; null where they have none. */
export function rankMoves({ moves, ranks }: Pick<Comparison, 'moves' | 'ranks'>): RankMoves | null {
  if (ranks.length === 0) return null
  return moves.reduce((sum, move) => {
    const way = wayOf(move, ranks)
    return { up: sum.up + (way === 'up' ? move.records : 0), down: sum.down + (way === 'down' ? move.records : 0) }
  }, { up: 0, down: 0 })
}

/** Null where one of the two has no rank, and of equals. */
export function wayOf({ from, to }: Pick<KeptMove, 'from' | 'to'>, ranks: Comparison['ranks']): 'up' | 'down' | null {
  const rankOf = (place: Place) => (place?.kind === 'label' ? (ranks.find(({ label }) => label === place.label)?.rank ?? null) : null)
  const [was, now] = [rankOf(from), rankOf(to)]
  return was === null || now === null || was === now ? null : now > was ? 'up' : 'down'
}

/** What the two were made of, as far as it differs, a line for each. */
export function differenceLines({ gate, table, asOf, binding, feeding, figures }: Differences): string[] {
  const version = (one: number | null) => (one === null ? 'not at all' : `version ${one}`)
  return [
    ...(gate ? [`${gate.from} → ${gate.to}`] : []),
    ...feeding.map(({ name, from, to }) => `fed by ${name}: ${version(from)} → ${version(to)}`),
    ...(binding.length > 0 ? [`another column stands for ${listed(binding)}`] : []),
    ...(table ? [`the table: version ${table.from} → ${table.to}`] : []),
    ...figures.map((name) => `${name} is computed otherwise`),
    ...(asOf ? [`as of ${date(asOf.from)} → ${date(asOf.to)}`] : []),
  ]
}

/** The whole in a sentence. */
export function wholeWords({ stayed, moves }: Pick<Comparison, 'stayed' | 'moves'>): string {
  const kept = stayed.reduce((sum, { records }) => sum + records, 0)
  const sum = (all: readonly KeptMove[]) => all.reduce((total, { records }) => total + records, 0)
  const moved = sum(moves.filter(({ from, to }) => from !== null && to !== null))
  const [fresh, gone] = [sum(moves.filter(({ from }) => from === null)), sum(moves.filter(({ to }) => to === null))]
  if (moves.length === 0) return `Every one of ${counted(kept, 'record')} got the same.`
  return `${counted(kept, 'record')} kept ${kept === 1 ? 'its' : 'their'} label, ${count(moved)} moved${fresh > 0 ? `, ${count(fresh)} new` : ''}${gone > 0 ? `, ${count(gone)} gone` : ''}.`
}
