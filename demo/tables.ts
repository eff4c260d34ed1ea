/** The tables of the demo, and where their files lie. */
import { CLIMBER_COURSE_COLUMNS, climberCourse } from './climber-course'
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
]

export function* withHeader(columns: readonly string[], records: Iterable<string[]>): Generator<string[]> {
  yield [...columns]
  yield* records
}
