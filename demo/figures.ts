/** Column sets and figures that the demo's tables start with. */

export interface DemoFigures {
  table: string
  /** By name what their columns are named like. */
  sets: Record<string, string>
  figures: { name: string; unit: string; feel: string }[]
}

export const DEMO_FIGURES: DemoFigures[] = [
  {
    table: 'Street trees',
    sets: {},
    figures: [
      { name: 'Slenderness', unit: '', feel: '100 * Height / Trunk' },
      { name: 'Days left', unit: 'days', feel: '(Next due - today()).days' },
    ],
  },
  {
    table: 'Climber course',
    sets: { Modules: 'Module *' },
    figures: [
      { name: 'Mean of modules', unit: 'of 5', feel: 'mean(Modules)' },
      { name: 'Modules taken', unit: '', feel: 'count(Modules)' },
    ],
  },
  { table: 'Night course', sets: { Marks: 'Mark *' }, figures: [{ name: 'Mean of marks', unit: 'of 5', feel: 'mean(Marks)' }] },
  {
    table: 'Crews',
    sets: {},
    // One of the crews has 7 years and 11 months: whole years hide that, months do not.
    figures: [
      { name: 'Years of service', unit: 'years', feel: 'years and months duration(Started, today()).years' },
      {
        name: 'Months of service',
        unit: 'months',
        feel: '12 * years and months duration(Started, today()).years + years and months duration(Started, today()).months',
      },
    ],
  },
]
