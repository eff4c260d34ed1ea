import { stretchOf } from './stretch'

const scale = (cuts: string[], floor: string | null = null, ceiling: string | null = null) => ({ cuts: cuts.map((at) => ({ at, owner: 'above' as const })), floor: floor === null ? null : { at: floor, included: true }, ceiling: ceiling === null ? null : { at: ceiling, included: true } })

test('all cuts, both ends and the value are in view, with room beside them', () => {
  for (const [shown, value] of [[scale(['12', '40'], '0', '100'), 140], [scale(['12']), -3], [scale(['12']), 12], [scale([]), 0]] as const) {
    const { from, to } = stretchOf(shown, value)
    for (const place of [value, ...shown.cuts.map(({ at }) => Number(at))]) expect(from < place && place < to).toBe(true)
  }
})
