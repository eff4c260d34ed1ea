import type { Gate } from '@dime-gate/core/gate/document'
import { number } from '../shared/format'
import { reasonWords } from '../shared/words'
import type { Trial } from './trial'

/** Why someone should look at a record, or else how far it is from the next cut. */
export function trialWords({ reasons: [reason], nearest, label }: Pick<Trial, 'reasons' | 'nearest' | 'label'>, gate: Gate): string {
  if (reason) return reasonWords(reason, gate, label)
  if (!nearest) return ''
  return `${number(nearest.distance.replace('-', ''))} ${nearest.distance.startsWith('-') ? 'short of' : 'past'} the cut at ${number(nearest.at)}`
}
