/** A finding in words. */
import { textOfValue } from '../value/value-text'
import type { Finding } from './finding'

/** @param rulePaths by rule, where it stands in the gate's document, as in `rules.3` */
export function findingWords({ kind, rules, axis, where, labels, isProven }: Finding, rulePaths: readonly string[]): string {
  const places = Object.entries(where).map(([name, test]) => `${name} ${test}`).join(', ')
  const on = places === '' ? '' : ` (${places})`
  const named = rules.map((rule) => placeWords(rulePaths[rule] ?? `rules.${rule}`))
  const [first = '', ...others] = named
  const [label = '', other = ''] = labels
  const words = (): string => {
    switch (kind) {
      case 'gap':
        return `No rule takes ${places === '' ? 'some records' : places}.`
      case 'edge hole':
        return `Exactly this value is taken by no rule: ${places}.`
      case 'step hole':
        return `Ranges of whole numbers leave out what lies between them: ${places}.`
      case 'overlap':
        return `${first} and ${others.join(', ')} take the same records and give different results${on}.`
      case 'never reached':
        return `${first} is never reached${others.length > 0 ? `: ${others.join(', ')} ${others.length > 1 ? 'take' : 'takes'} all its records` : ''}.`
      case 'no effect':
        return `Without ${first} every record would get the same.`
      case 'split label':
        return `“${label}” stands on two stretches of ${axis ?? 'one input'} with other labels between them${on}.`
      case 'rank break':
        return `Ranks do not rise or fall along ${axis ?? 'one input'}: ${labels.map((one) => `“${one}”`).join(', ')}${on}.`
      case 'outside range':
        return `${first === '' ? 'The gate' : first} tests ${axis ?? 'an input'} where no value is expected${on}.`
      case 'near-same labels':
        return `“${label}” and “${other}” are almost the same label.`
      case 'blank unsaid':
        return `${axis ?? 'An input'} can be blank, and nothing says what then: its records are held.`
      case 'scale mismatch':
        return `The values of ${axis ?? 'a column'} are on another scale than the cuts${on}.`
      case 'near-miss values':
        return `No record has “${label}”, but some have “${other}”.`
      case 'all in one band':
        return `All records get “${label}”.`
      case 'finer than cuts':
        return `The values of ${axis ?? 'a column'} are finer than the cuts${on}.`
    }
  }
  return isProven ? words() : `${words()} (Not proven: expressions over several inputs were taken for independent.)`
}

/** A rule as people count: `rule 3`, `band 2`, `cell 1.4`. */
function placeWords(path: string): string {
  return path.replace(/^(\w+?)s\./, '$1 ').replace(/\d+/g, (place) => String(Number(place) + 1))
}

/** The record that shows it; empty where there is none. */
export function exampleWords({ example }: Finding): string {
  if (!example) return ''
  return Object.entries(example).map(([name, value]) => `${name} ${value === null ? 'blank' : textOfValue(value)}`).join(', ')
}
