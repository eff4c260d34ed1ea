import { parseExpression } from '../expression/parse'
import { unitOfFigure } from './units'

const UNITS: Record<string, string | null> = {
  Height: 'm',
  Trunk: 'cm',
  Crown: 'm',
  Weight: 'kg',
  Load: 't',
  Decay: '%',
  Share: '',
  Trees: 'trees',
  Road: 'km',
  Modules: 'of 5',
  Name: null,
  Due: null,
}
function found(text: string) {
  const parsed = parseExpression(text, Object.keys(UNITS))
  if ('problem' in parsed) throw new Error(text)
  return unitOfFigure(parsed.tree, text, (name) => UNITS[name] ?? (name in UNITS ? UNITS[name]! : null))
}

test.each([
  ['Height', 'm'],
  ['-Height', 'm'],
  ['Height + Crown', 'm'],
  ['Height * Crown', 'm²'],
  ['Height ** 3', 'm³'],
  ['Weight / Height ** 2', 'kg/m²'],
  ['Weight / (Height * Crown)', 'kg/m²'],
  ['Trees / Road', 'trees/km'],
  ['1 / Road', '1/km'],
  ['100 * Height', 'cm'],
  ['Height / 1000', 'km'],
  ['100 * Height / Trunk', ''],
  ['Trunk / 100 + Height', 'm'],
  ['3 * Height', 'm'],
  ['(2 * Height + Crown) / 3', 'm'],
  ['100 * (Height - Crown) / Crown', ''],
  ['10000 * (Height * Crown)', 'cm²'],
  ['mean(for one in Modules return if one = null then 0 else one)', 'of 5'],
  ['Height + 3', 'm'],
  ['mean(Modules)', 'of 5'],
  ['max(Height, Crown)', 'm'],
  ['count(Modules)', ''],
  ['round half up(Height, 1)', 'm'],
  ['if Height > 3 then Height else Crown', 'm'],
  ['(today() - Due).days', 'days'],
  ['years and months duration(Due, today()).years', 'years'],
  ['Height > 3', ''],
  ['Name', ''],
  ['Trees * Height / Trees', 'm'],
  ['Height * Road / Road', 'm'],
])('%s is in “%s”', (text, unit) => {
  expect(found(text)).toEqual({ unit, troubles: [] })
})

test.each([
  ['Height + Trunk', 'm and cm are added.', 'Height + (Trunk / 100)'],
  ['Trunk - Height', 'cm and m are taken from one another.', 'Trunk - (Height * 100)'],
  ['Height > Trunk', 'm and cm are compared.', 'Height > (Trunk / 100)'],
  ['max(Weight, Load)', 'kg and t are put together.', 'max(Weight, (Load * 1000))'],
  ['Trunk / Height', 'cm and m cancel each other but for 1/100.', 'Trunk / (Height * 100)'],
  ['Height + (Trunk + Trunk)', 'm and cm are added.', 'Height + (((Trunk + Trunk) / 100))'],
  ['Height * Crown + Trunk * Trunk', 'm² and cm² are added.', 'Height * Crown + (Trunk * Trunk / 10000)'],
  ['Decay > 0.25', 'Beside percent 0.25 looks like a fraction; 25 would be that many percent.', 'Decay > 25'],
  ['Decay in [0.1..0.5]', 'Beside percent 0.1 looks like a fraction; 10 would be that many percent.', 'Decay in [10..0.5]'],
  [
    'Decay - Share',
    '% and a number without a unit are taken from one another: percent against what may be a fraction.',
    'Decay - (Share * 100)',
  ],
  [
    'Share - Decay',
    'a number without a unit and % are taken from one another: percent against what may be a fraction.',
    'Share - (Decay / 100)',
  ],
  ['Height + Weight', 'm and kg are added.', null],
])('%s: %s', (text, words, converted) => {
  const [first] = found(text).troubles
  expect([first?.words, first?.converted ?? undefined]).toEqual([words, converted ?? undefined])
})

test('what is converted has no trouble left', () => {
  for (const text of [
    'Height + Trunk',
    'Trunk - Height',
    'max(Weight, Load)',
    'Trunk / Height',
    'Height * Crown + Trunk * Trunk',
    'Decay > 0.25',
  ]) {
    const { troubles } = found(text)
    expect(found(troubles[0]!.converted!).troubles).toEqual([])
  }
})
