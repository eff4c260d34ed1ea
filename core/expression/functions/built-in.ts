/** All built-in functions, by name (DMN 1.5 clause 10.3.4). Functions on contexts are not among them: the product has no contexts. */
import { CONVERSION_FUNCTIONS, DATE_FUNCTIONS } from './dates'
import { type BuiltIn, define } from './define'
import { LIST_FUNCTIONS } from './lists'
import { NUMBER_FUNCTIONS } from './numbers'
import { RANGE_FUNCTIONS } from './ranges'
import { TEXT_FUNCTIONS } from './texts'

const NOT = define('not', ['negand: any', 'boolean', ([value]) => (typeof value === 'boolean' ? !value : null)])

export const BUILT_IN: ReadonlyMap<string, BuiltIn> = new Map(
  [NOT, ...CONVERSION_FUNCTIONS, ...NUMBER_FUNCTIONS, ...TEXT_FUNCTIONS, ...LIST_FUNCTIONS, ...DATE_FUNCTIONS, ...RANGE_FUNCTIONS].map((builtIn) => [builtIn.name, builtIn]),
)

export const FUNCTION_NAMES: readonly string[] = [...BUILT_IN.keys()]
