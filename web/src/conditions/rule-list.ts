import { listed } from '../shared/words'

/** `rule 3`, `rules 1, 2 and 5`. @param rules their places, from 0 */
export function ruleList(rules: readonly number[]): string {
  return `${rules.length === 1 ? 'rule' : 'rules'} ${listed(rules.map((at) => String(at + 1)))}`
}
