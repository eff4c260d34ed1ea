/** A finding in words. */
import { textOfValue } from '../value/value-text'
import type { Finding } from './finding'
import { listed, placeWords } from './place-words'

/**
 * @param rulePaths by rule, where it stands in the gate's document, as in `rules.3`
 * @param conditionWords puts a condition's text in words, where there are better ones than its own
 */
export function findingWords(finding: Finding, rulePaths: readonly string[], conditionWords: (text: string) => string = (text) => text): string {
  const { kind, severity, rules, axis, where, labels, concerns, isProven } = finding
  const condition = finding.condition === '' ? '' : conditionWords(finding.condition)
  const named = rules.map((rule) => placeWords(rulePaths[rule] ?? `rules.${rule}`))
  const [first = '', ...others] = named
  const [label = '', other = ''] = labels
  // Texts that a list leaves out there always are, and nobody wants to read what it looks like inside.
  const isOfList = kind === 'gap' && rulePaths[0]?.startsWith('lines.')
  const taker = { bands: 'band', lines: 'tray', cells: 'cell' }[/^\w+/.exec(rulePaths[0] ?? '')?.[0] ?? ''] ?? 'rule'
  const along = axis ?? 'one input'
  const words = (): string => {
    switch (kind) {
      case 'gap':
        if (condition === '') return 'Nothing takes a record yet.'
        return isOfList ? `No tray takes any other ${concerns[0] ?? along}.` : `No ${taker} takes ${condition}.`
      case 'edge hole':
        return `Exactly this value is taken by no rule: ${condition}.`
      case 'step hole':
        return `Ranges of whole numbers leave out what lies between them: ${condition}.`
      case 'overlap':
        if (severity === 'error') return `${listed([first, ...others], 'and')} can be true together and give different results.`
        return others.length === 1
          ? `Where ${others[0]} and ${first} are both true, ${others[0]} comes first: “${other}”, not “${label}”.`
          : `Where ${first} is true together with ${listed(others, 'or')}, the earlier one decides, with another result.`
      case 'never reached':
        return others.length > 0
          ? `${first} is never reached: ${listed(others, 'and')} ${others.length > 1 ? 'together take' : 'takes'} all its records first.`
          : `${first} can never be true: what it asks for excludes itself.`
      case 'no effect':
        return `Without ${first} every record would get the same.`
      case 'split label':
        return `“${label}” stands on separate stretches of ${along}, with other labels between them: ${condition}.`
      case 'rank break':
        return `Along ${along} the ranks turn back: “${label}” is followed by “${other}” (${condition}).`
      case 'outside range':
        return `${listed(named, 'and')} ${rules.length > 1 ? 'ask' : 'asks'} about ${condition}, which is not expected of ${along}.`
      case 'near-same labels':
        return `${listed(labels.map((one) => `“${one}”`), 'and')} are almost the same label.`
      case 'blank unsaid':
        return `${axis ?? 'An input'} can be blank, and nothing says what then: its records are held.`
      case 'scale mismatch':
        return `The values of ${axis ?? 'a column'} are on another scale than the cuts (${where[along]}).`
      case 'near-miss values':
        return `No record has “${label}”, but some have “${other}”.`
      case 'all in one band':
        return `All records get “${label}”.`
      case 'finer than cuts':
        return `The values of ${axis ?? 'a column'} are finer than the cuts (${where[along]}).`
    }
  }
  const text = words()
  const sentence = text.charAt(0).toUpperCase() + text.slice(1)
  return isProven || isOfList ? sentence : `${sentence} The example is sure; whether all of that can occur is not known, since it is computed.`
}

/** The record that shows it, as far as it matters; empty where there is none. */
export function exampleWords({ example, concerns }: Finding): string {
  if (!example) return ''
  return Object.entries(example).filter(([name]) => concerns.includes(name)).map(([name, value]) => `${name} ${value === null ? 'blank' : textOfValue(value)}`).join(', ')
}
