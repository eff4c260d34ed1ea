/** Which columns of a table a highlight points out, by what it calls them. */
import { columnsBound, type StandingInputs } from '@dime-gate/contract/binding'
import type { Highlight } from '@dime-gate/core/highlight/highlight'
import type { ToldHighlights } from '../records/session-highlights'

/** @param inputs of the gate, and what stands for them @returns none for what the table does not have */
export function pointedColumns(name: string, inputs: StandingInputs, told: Pick<ToldHighlights, 'others'> | null): number[] {
  const bound = inputs[name]
  return bound ? columnsBound(bound) : (told?.others ?? []).flatMap((other) => (other.name === name ? [other.id] : []))
}

/** The columns that come first in a list: those that are looked at, then those in which values are pointed out. */
export function columnsBeside(looked: readonly number[], highlights: readonly Pick<Highlight, 'on'>[], inputs: StandingInputs, told: Pick<ToldHighlights, 'others'> | null): number[] {
  return [...new Set([...looked, ...highlights.flatMap(({ on }) => (on === null ? [] : pointedColumns(on, inputs, told)))])]
}
