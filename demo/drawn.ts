/** Columns of the demo that are drawn from other tables or from gates, its table of wards, and how the office's indicators are calculated. Tables, columns and gates are named. */

/** What is taken of the records of a table. */
export interface DemoCalculation {
  from: string
  take: 'count' | 'sum' | 'mean' | 'max' | 'share' | 'value'
  of?: string
  where?: string
}

export const DEMO_LABELS: { table: string; gate: string }[] = [
  { table: 'Street trees', gate: 'Felling decision' },
  { table: 'Climber course', gate: 'Course award' },
]

export interface DemoRelated extends DemoCalculation {
  table: string
  name: string
  unit: string
  /** A column here, and the one there that has to be the same. */
  key: [own: string, theirs: string]
  none: 'nothing' | 'blank'
}

/** Two of the reports are of trees that there are not, and one species is in no list. */
export const DEMO_RELATED: DemoRelated[] = [
  {
    table: 'Street trees',
    name: 'Reports',
    unit: '',
    from: 'Resident reports',
    key: ['Tree no', 'Tree no'],
    take: 'count',
    none: 'nothing',
  },
  {
    table: 'Street trees',
    name: 'Usual life',
    unit: 'years',
    from: 'Species',
    key: ['Species', 'Species'],
    take: 'value',
    of: 'Usual life',
    none: 'blank',
  },
  {
    table: 'Resident reports',
    name: 'Ward',
    unit: '',
    from: 'Street trees',
    key: ['Tree no', 'Tree no'],
    take: 'value',
    of: 'Ward',
    none: 'blank',
  },
]

export const DEMO_ROLL_UP = {
  table: 'Street trees',
  name: 'Wards',
  by: 'Ward',
  figures: [
    { name: 'Trees', unit: '', take: 'count' },
    { name: 'Past their date', unit: '%', take: 'share', where: 'Next due < today()' },
    { name: 'Mean decay', unit: '%', take: 'mean', of: 'Decay' },
    { name: 'To be felled', unit: '', take: 'count', where: 'Felling decision = "Fell"' },
    { name: 'Reports', unit: '', take: 'sum', of: 'Reports' },
  ] satisfies (Omit<DemoCalculation, 'from'> & { name: string; unit: string })[],
}

/** In the order of the table's records. */
export const DEMO_INDICATORS: (DemoCalculation & { unit: string })[] = [
  { from: 'Street trees', take: 'share', where: 'Next due < today()', unit: '%' },
  { from: 'Street trees', take: 'count', where: 'Felling decision = "Fell"', unit: 'trees' },
  { from: 'Street trees', take: 'mean', of: 'Decay', unit: '%' },
  { from: 'Resident reports', take: 'count', where: 'Received > today() - @"P1M"', unit: 'reports' },
  { from: 'Climber course', take: 'share', where: 'Course award in ("Crown", "Climb")', unit: '%' },
  { from: 'Crews', take: 'share', where: 'Chainsaw ticket = true', unit: '%' },
]

/** How far an indicator is from its target, whichever way is better: below 0 it is missed. */
export const INDICATOR_DISTANCE = { name: 'Beyond target', unit: '', feel: 'if Better = "lower" then Target - Value else Value - Target' }
