/** What the office is measured by: a row each, with how it is reckoned and what is aimed at. */

export const INDICATOR_COLUMNS = ['Indicator', 'Calculation', 'Target', 'Unit', 'Better']

export function* officeIndicators(): Generator<string[]> {
  yield ['Trees past their date', 'share of Street trees whose Next due is before the as-of date', '5', '%', 'lower']
  yield ['Trees to be felled', 'count of Street trees that Felling decision labels “fell”', '12', 'trees', 'lower']
  yield ['Mean decay', 'mean of Decay over Street trees', '12', '%', 'lower']
  yield ['Reports a month', 'count of Resident reports a month', '38', 'reports', 'lower']
  yield ['Trainees who may climb', 'share of Climber course with Course award climb or crown', '60', '%', 'higher']
  yield ['Crew with a ticket', 'share of Crews with a Chainsaw ticket', '80', '%', 'higher']
}
