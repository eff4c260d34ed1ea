/** What the words for a record's status, and for what should be looked at, mean. */
import type { Tray } from '@dime-gate/core/result/tray'

const MEANINGS: Partial<Record<Tray['kind'], string>> = {
  otherwise: 'No rule took these records, and the gate says what such a record gets.',
  unplaced: 'No rule took these records, and the gate does not say what such a record gets. They have no label.',
  held: 'A value that is missing, or could not be read, could change the label of these records. They have none until it is known.',
  contested: 'Rules that give different labels hold for these records, and the gate says that they must agree. They have no label.',
  unreadable: 'A text stands where a number, a date or a yes or no should be. It is kept, and counts as missing.',
  outside: 'A value is not one of those that the input expects. It counts all the same.',
  'on an edge': 'A value lies exactly on a cut: which side owns the cut decides.',
  'near an edge': 'A value lies so near to a cut that the input’s tolerance calls it beside it.',
  exceptions: 'All records that somebody should look at, whatever the reason. They wait in Review.',
  highlighted: 'Records that meet a condition of your own. It changes no label.',
}

/** Empty for what says it by its name. */
export function meaningOf({ kind }: Pick<Tray, 'kind'>): string {
  return MEANINGS[kind] ?? ''
}
