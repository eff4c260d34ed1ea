/** The tables of the demo, and where their files lie. */
import { CLIMBER_COURSE_COLUMNS, climberCourse } from './climber-course'
import { CREW_COLUMNS, crews } from './crews'
import { NIGHT_COURSE_COLUMNS, nightCourse } from './night-course'
import { INDICATOR_COLUMNS, officeIndicators } from './office-indicators'
import { REPORT_COLUMNS, residentReports } from './resident-reports'
import { SPECIES_COLUMNS, species } from './species'
import { STREET_TREE_COLUMNS, STREET_TREES, streetTrees } from './street-trees'

export interface DemoTable {
  name: string
  /** Its file, beside this one in `tables/`. */
  file: string
  records: () => Iterable<string[]>
}

export const DEMO_TABLES: DemoTable[] = [
  { name: 'Street trees', file: 'street-trees.csv', records: () => withHeader(STREET_TREE_COLUMNS, streetTrees(STREET_TREES)) },
  { name: 'Climber course', file: 'climber-course.csv', records: () => withHeader(CLIMBER_COURSE_COLUMNS, climberCourse()) },
  { name: 'Species', file: 'species.csv', records: () => withHeader(SPECIES_COLUMNS, species()) },
  { name: 'Resident reports', file: 'resident-reports.csv', records: () => withHeader(REPORT_COLUMNS, residentReports()) },
  { name: 'Night course', file: 'night-course.csv', records: () => withHeader(NIGHT_COURSE_COLUMNS, nightCourse()) },
  { name: 'Crews', file: 'crews.csv', records: () => withHeader(CREW_COLUMNS, crews()) },
  { name: 'Office indicators', file: 'office-indicators.csv', records: () => withHeader(INDICATOR_COLUMNS, officeIndicators()) },
]

export function* withHeader(columns: readonly string[], records: Iterable<string[]>): Generator<string[]> {
  yield [...columns]
  yield* records
}
