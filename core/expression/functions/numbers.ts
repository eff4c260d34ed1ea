/** Functions on numbers (DMN 1.5 clause 10.3.4.5). */
import { numberOutcome, type Outcome } from '../../value/arithmetic'
import { Decimal, type Rounding } from '../../value/number'
import { roundTo } from '../../value/round'
import { dayTimeDuration, yearMonthDuration } from '../../value/temporal'
import type { DayTimeDuration, Value, YearMonthDuration } from '../../value/value'
import { define } from './define'

const SMALLEST_SCALE = -6111
const LARGEST_SCALE = 6176

function rounding(mode: Rounding) {
  return ([number, scale]: readonly Value[]): Outcome => {
    const places = (scale as Decimal | null) ?? new Decimal(0)
    const isScale = places.isInteger() && places.gte(SMALLEST_SCALE) && places.lte(LARGEST_SCALE)
    return isScale ? numberOutcome(roundTo(number as Decimal, places.toNumber(), mode)) : { shortfall: 'out-of-range' }
  }
}

const one = (run: (number: Decimal) => Decimal) => ([number]: readonly Value[]) => numberOutcome(run(number as Decimal))
const whole = (run: (number: Decimal) => boolean) => ([number]: readonly Value[]) => ((number as Decimal).isInteger() ? run(number as Decimal) : null)

/** Beyond these e to the power is out of decimal128's reach anyway. */
const LARGEST_POWER = 15_000

export const NUMBER_FUNCTIONS = [
  define('decimal', ['n: number, scale: number', 'number', rounding(Decimal.ROUND_HALF_EVEN)]),
  define('floor', ['n: number, scale?: number', 'number', rounding(Decimal.ROUND_FLOOR)]),
  define('ceiling', ['n: number, scale?: number', 'number', rounding(Decimal.ROUND_CEIL)]),
  define('round up', ['n: number, scale?: number', 'number', rounding(Decimal.ROUND_UP)]),
  define('round down', ['n: number, scale?: number', 'number', rounding(Decimal.ROUND_DOWN)]),
  define('round half up', ['n: number, scale?: number', 'number', rounding(Decimal.ROUND_HALF_UP)]),
  define('round half down', ['n: number, scale?: number', 'number', rounding(Decimal.ROUND_HALF_DOWN)]),
  define('abs',
    ['n: number', 'number', one((n) => n.abs())],
    ['n: days and time duration', 'days and time duration', ([n]) => dayTimeDuration((n as DayTimeDuration).seconds.abs())],
    ['n: years and months duration', 'years and months duration', ([n]) => yearMonthDuration(Math.abs((n as YearMonthDuration).months))]),
  define('modulo', ['dividend: number, divisor: number', 'number', ([dividend, divisor]) => modulo(dividend as Decimal, divisor as Decimal)]),
  define('sqrt', ['number: number', 'number', one((n) => n.sqrt())]),
  define('log', ['number: number', 'number', one((n) => n.ln())]),
  define('exp', ['number: number', 'number', one((n) => (n.abs().gt(LARGEST_POWER) ? new Decimal(n.isNeg() ? 0 : Infinity) : n.exp()))]),
  define('odd', ['number: number', 'boolean', whole((n) => !n.mod(2).isZero())]),
  define('even', ['number: number', 'boolean', whole((n) => n.mod(2).isZero())]),
]

/** dividend - divisor × floor(dividend ÷ divisor): it has the divisor's sign. */
function modulo(dividend: Decimal, divisor: Decimal): Outcome {
  if (divisor.isZero()) return { shortfall: 'division-by-zero' }
  const rest = dividend.mod(divisor)
  return numberOutcome(rest.isZero() || rest.isNeg() === divisor.isNeg() ? rest : rest.plus(divisor))
}
