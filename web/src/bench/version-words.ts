/** What differs between two states of a gate, in words. */
import type { Change } from '@dime-gate/core/gate/changes'
import type { Entry, Gate } from '@dime-gate/core/gate/document'
import { conditionWordsOf } from '../conditions/sentence-words'
import { entryWords } from '../rules/rule-words'
import { FORM_WORDS, listed, valueWords } from '../shared/words'

/** @param before and after the states that the change lies between: conditions speak of their inputs */
export function changeWords(change: Change, before: Pick<Gate, 'inputs' | 'conditions'>, after: Pick<Gate, 'inputs' | 'conditions'>): string {
  const [was, is] = [conditionWordsOf(before), conditionWordsOf(after)]
  const condition = (text: string, words: (text: string) => string) => (text.trim() === '' ? 'no condition yet' : words(text))
  switch (change.kind) {
    case 'rule added':
      return `Rule ${change.at + 1} is new: ${condition(change.condition, is)}`
    case 'rule removed':
      return `What was rule ${change.at + 1} is gone: ${condition(change.condition, was)}`
    case 'rule moved':
      return `Rule ${change.to + 1} was rule ${change.from + 1}`
    case 'condition':
      return `Rule ${change.at + 1} takes “${condition(change.to, is)}”, before “${condition(change.from, was)}”`
    case 'gives':
      return `Rule ${change.at + 1} gives ${entry(change.to)}${change.outcome === 'Label' ? '' : ` for ${change.outcome}`}, before ${entry(change.from)}`
    case 'switched off':
    case 'switched on':
      return `Rule ${change.at + 1} is ${change.kind}`
    case 'note':
      return `Rule ${change.at + 1} has another remark`
    case 'otherwise':
      return `Otherwise gives ${rest(change.to)}, before ${rest(change.from)}`
    case 'label added':
      return `The label “${change.label}” is new`
    case 'label removed':
      return `The label “${change.label}” is gone`
    case 'label looks otherwise':
      return `The label “${change.label}” looks otherwise`
    case 'labels in another order':
      return 'The labels are in another order'
    case 'outcome added':
      return `${change.outcome} is given too`
    case 'outcome removed':
      return `${change.outcome} is not given any more`
    case 'input added':
      return `It looks at ${change.input} too`
    case 'input removed':
      return `It does not look at ${change.input} any more`
    case 'input read otherwise':
      return `${change.input} is read otherwise`
    case 'named condition added':
      return `The named condition “${change.name}” is new`
    case 'named condition removed':
      return `The named condition “${change.name}” is gone`
    case 'named condition':
      return `“${change.name}” holds for “${condition(change.to, is)}”, before “${condition(change.from, was)}”`
    case 'named condition called':
      return `The condition “${change.from}” is called “${change.to}”`
    case 'name':
      return `It is called “${change.to}”, before “${change.from}”`
    case 'hit policy':
      return `Its rules are read as “${change.to}”, before “${change.from}”`
    case 'cuts':
      return `The cuts lie at ${listed(change.to.map(valueWords)) || 'nothing'}, before at ${listed(change.from.map(valueWords)) || 'nothing'}`
    case 'form':
      return `It is a ${FORM_WORDS[change.to]}, before a ${FORM_WORDS[change.from]}`
    case 'parts':
      return 'What its parts take or give is another'
  }
}

function entry(of: Entry): string {
  const words = entryWords(of ?? undefined)
  return words === '' ? 'nothing' : `“${words}”`
}

function rest(entries: Entry[] | null): string {
  return entries === null ? 'no label' : listed(entries.map(entry))
}
