/** Neighbouring parts of an axis that get the same, as the bands of a scale. */
import type { Cut, Scale } from '../gate/document'
import type { Bound } from '../gate/interval'
import { textOfValue } from '../value/value-text'
import type { Value } from '../value/value'
import type { Part } from './asked'
import type { FormRefusal } from './form-change'

/** @property groups for each band the places of its parts */
export interface Stretches extends Pick<Scale, 'cuts' | 'floor' | 'ceiling'> {
  groups: number[][]
}

/**
 * @param marks what each part gets, as a text that tells it from others; null where it is off the scale
 * @param input what the axis is of
 */
export function stretchesOf(parts: readonly Part[], marks: readonly (string | null)[], stops: readonly Value[], input: string): Stretches | { refusal: FormRefusal } {
  const groups: number[][] = []
  for (const at of parts.keys()) {
    if (at > 0 && marks[at] === marks[at - 1]) groups.at(-1)!.push(at)
    else groups.push([at])
  }
  const edges = groups.slice(1).map(([first]): Cut => {
    const { stop, isOn } = parts[first!]!
    return { at: textOfValue(stops[stop]!), owner: isOn ? 'above' : 'below' }
  })
  const alone = edges.findIndex(({ at }, index) => index > 0 && edges[index - 1]!.at === at)
  if (alone >= 0) return { refusal: { kind: 'alone', input, value: edges[alone]!.at } }
  const isOff = groups.map(([first]) => marks[first!] === null)
  const [isOpenBelow, isOpenAbove] = [isOff[0]!, groups.length > 1 && isOff.at(-1)!]
  const bound = ({ at, owner }: Cut, isLow: boolean): Bound => ({ at, included: (owner === 'above') === isLow })
  return {
    floor: isOpenBelow && edges.length > 0 ? bound(edges[0]!, true) : null, ceiling: isOpenAbove ? bound(edges.at(-1)!, false) : null,
    cuts: edges.slice(isOpenBelow ? 1 : 0, isOpenAbove ? -1 : undefined), groups: groups.slice(isOpenBelow ? 1 : 0, isOpenAbove ? -1 : undefined),
  }
}
