/** What is lost by another form, or stands in its way, in words. */
import type { FormLoss, FormName, FormRefusal, Got } from './form-change'

const FORMS: Record<FormName, string> = { scale: 'A scale', match: 'A match list', grid: 'A grid', rules: 'A list of rules' }

/** A sentence for each loss. */
export function changeWords(losses: readonly FormLoss[]): string[] {
  return losses.map((loss) => {
    switch (loss.kind) {
      case 'notes':
        return `What is noted at ${rulesText(loss.rules)} goes.`
      case 'idle':
        return `${capital(rulesText(loss.rules))} ${goes(loss.rules)}: ${loss.rules.length === 1 ? 'it is' : 'they are'} switched off, or not written yet.`
      case 'unreached':
        return `${capital(rulesText(loss.rules))} ${goes(loss.rules)}: ${loss.rules.length === 1 ? 'it never takes' : 'they never take'} a record.`
      case 'names':
        return 'Conditions that are used by name are written out.'
      case 'otherwise':
        return `Rule ${loss.rule + 1}, which takes whatever is left, becomes otherwise.`
      case 'spelling':
        return 'Values whose case and spaces do not count stand in small letters from then on.'
    }
  })
}

export function refusalWords(refusal: FormRefusal, form: FormName): string {
  switch (refusal.kind) {
    case 'inputs':
      return refusal.found.length < refusal.most
        ? `${FORMS[form]} needs ${numbers(refusal.most)}, and this gate looks at ${listed(refusal.found)} alone.`
        : `${FORMS[form]} looks at ${numbers(refusal.most)}, and these rules look at ${listed(refusal.found)}.`
    case 'test':
      return `Rule ${refusal.rule + 1} asks “${refusal.text}”, which is more than where one input lies.`
    case 'policy':
      return `Here a record can get what several rules give (${refusal.hitPolicy}), and elsewhere one decides.`
    case 'values':
      return `${refusal.input} has no order that could be cut.`
    case 'stretches':
      return `The rules ask for stretches of ${refusal.input}, and a match list looks up single values.`
    case 'alone':
      return `${refusal.value} by itself gets something else than what is beside it.`
    case 'hole':
      return `Between the bands lies a stretch that gets nothing, as where ${refusal.input} is ${refusal.value}.`
    case 'rest':
      return `A rule takes every value of ${refusal.input} that is not named. Give that by otherwise.`
    case 'computed':
      return 'What a band would give is computed, and a band gives one value.'
    case 'differs':
      return `A record with ${refusal.at.map(({ input, value }) => `${input} ${value ?? 'blank'}`).join(' and ')} ${gotText(refusal.was)} now, and ${gotText(refusal.would, 'would ')} then.`
    case 'faulty':
      return 'The gate cannot decide as it stands: its faults come first.'
    case 'nothing':
      return 'The rules ask nothing that it could be made of.'
  }
}

function gotText(got: Got, would = ''): string {
  if ('label' in got) return `${would === '' ? 'gets' : 'would get'} “${got.label}”`
  const words = { held: 'held', contested: 'contested', unplaced: 'without a label' }[got.status]
  return `${would === '' ? 'is' : 'would be'} ${words}`
}

const goes = (rules: readonly number[]) => (rules.length === 1 ? 'goes' : 'go')
const numbers = (most: number) => (most === 1 ? 'one input' : 'two inputs')
const rulesText = (rules: readonly number[]) => `${rules.length === 1 ? 'rule' : 'rules'} ${listed(rules.map((rule) => String(rule + 1)))}`
const capital = (text: string) => text.slice(0, 1).toUpperCase() + text.slice(1)

function listed(words: readonly string[]): string {
  return words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`
}
