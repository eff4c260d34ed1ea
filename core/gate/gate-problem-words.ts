/** What keeps a gate from deciding, in words that say what to do. */
import { problemWords } from '../expression/problem-words'
import type { GateProblem } from './gate-problem'

/** Why conditions could not refer to a name, by what `nameTrouble` says. */
export const NAME_TROUBLE_WORDS: Record<string, string> = {
  empty: 'it is empty', keyword: 'it is a word of the language', sign: 'it holds a sign that names cannot', 'begins-with-figure': 'it begins with a figure',
}

export function gateProblemWords({ code, found, problem }: GateProblem): string {
  const [first = '', second = ''] = found
  switch (code) {
    case 'no-outcome':
      return 'The gate gives nothing: it has no outcome.'
    case 'repeated-name':
      return `The name “${first}” is given twice. Rename one of the two.`
    case 'repeated-value':
      return `The value “${first}” is listed twice. Take one of the two out.`
    case 'unusable-name':
      return `Conditions could not refer to “${first}”: ${NAME_TROUBLE_WORDS[second] ?? second}. Rename it.`
    case 'unknown-input':
      return `The gate has no input “${first}”.`
    case 'not-ordered':
      return `“${first}” has no values in an order, one a record; choose another input.`
    case 'band-count':
      return 'A scale has one band more than it has cuts; here it has not.'
    case 'cut-order':
      return 'This cut does not lie above the one before it. Cuts ascend.'
    case 'empty-band':
      return 'No value can lie in this band. Move one of its ends.'
    case 'grid-shape':
      return 'The cells do not fit the sides: there is a row of cells for each line down, and in it a cell for each across.'
    case 'entry-count':
      return `There are ${first} results here, where the gate has ${second} ${second === '1' ? 'outcome' : 'outcomes'}.`
    case 'bad-value':
      return `“${first}” is no ${second}.`
    case 'expression':
      return problem ? problemWords(problem) : 'The expression cannot be read.'
    case 'wrong-outcome-kind':
      return `“${first}” gives a ${second}, which is not what is wanted here.`
    case 'figure-loop':
      return `These figures need each other, in a ring: ${found.join(', ')}.`
    case 'condition-loop':
      return `These conditions need each other, in a ring: ${found.join(', ')}.`
    case 'gate-loop':
      return `These gates need each other, in a ring: ${found.join(', ')}.`
    case 'unknown-gate':
      return `There is no gate “${first}” here, whose outcome this input takes.`
    case 'unknown-outcome':
      return `The gate “${first}” has no outcome “${second}”.`
    case 'not-a-number':
      return `The hit policy “${first}” adds up or compares numbers, and this outcome is none.`
    case 'nothing-to-round':
      return `“${first}” is no number, so there is nothing to round.`
  }
}
