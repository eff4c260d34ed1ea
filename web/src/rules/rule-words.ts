/** The rules that a gate's form comes down to, each as one line. */
import type { Entry, Gate, GridSide, List } from '@dime-gate/core/gate/document'
import { bandInterval, sideLength } from '@dime-gate/core/gate/form'
import { counted } from '../shared/format'
import { intervalWords, listed, valueWords } from '../shared/words'

export interface RuleWords {
  /** What it takes: an expression as it was written, or words for a part of another form. */
  takes: string
  entries: Entry[]
  /** The author's own remark; may be empty. */
  note: string
}

/** In the order of the rules that core decides by. */
export function ruleWords(gate: Gate): RuleWords[] {
  switch (gate.form) {
    case 'rules':
      return gate.rules.map(({ condition, entries, note }) => ({ takes: condition, entries, note }))
    case 'scale':
      return gate.bands.map(({ entries }, index) => ({ takes: `${gate.on} ${intervalWords(bandInterval(gate, index))}`, entries, note: '' }))
    case 'match':
      return gate.lines.map(({ values, entries }) => ({ takes: listWords(gate, values), entries, note: '' }))
    case 'grid':
      return gate.cells.flatMap((row, down) => row.flatMap((entries, across) => (entries ? [{ takes: `${sideWords(gate.down, down)}, ${sideWords(gate.across, across)}`, entries, note: '' }] : [])))
  }
}

function sideWords(side: GridSide, index: number): string {
  return side.kind === 'scale' ? `${side.on} ${intervalWords(bandInterval(side, index))}` : listWords(side, side.lines[index]!)
}

function listWords({ on }: Pick<List, 'on'>, values: readonly string[]): string {
  return values.length === 0 ? `${on} nothing` : `${on} ${listed(values.map(valueWords)).replace(/ and (?=[^,]*$)/, ' or ')}`
}

/** How a form reads its rules, in short. */
export function formWords(gate: Gate): string {
  switch (gate.form) {
    case 'rules':
      return gate.hitPolicy === 'first' ? 'rules, first that holds' : `rules, ${gate.hitPolicy}`
    case 'scale':
      return 'scale'
    case 'match':
      return gate.folds ? 'match list, case and spaces aside' : 'match list'
    case 'grid':
      return `grid, ${sideLength(gate.down)} × ${sideLength(gate.across)}`
  }
}

/** How much there is of a gate. */
export function sizeWords(gate: Gate): string {
  switch (gate.form) {
    case 'rules':
      return counted(gate.rules.length, 'rule')
    case 'scale':
      return counted(gate.bands.length, 'band')
    case 'match':
      return counted(gate.lines.length, 'tray')
    case 'grid':
      return `${sideLength(gate.down)} × ${sideLength(gate.across)} cells`
  }
}

export function entryWords(entry: Entry | undefined): string {
  return !entry ? '' : 'is' in entry ? valueWords(entry.is) : entry.feel
}
