import { both, either, negated } from '../expression/truth'
import { FALSE, NULL, TRUE, type Verdict } from '../decide/verdict'
import { bothRows, eitherRows, emptyRows, negatedRows, putVerdict, type TruthRows } from './truth-rows'

const VERDICTS = [1, 2, 3, 4, 5, 6, 7] as Verdict[]
const PAIRS = VERDICTS.flatMap((a) => VERDICTS.map((b) => [a, b] as const))

function rowsOf(verdicts: readonly Verdict[]): TruthRows {
  const rows = emptyRows(verdicts.length)
  verdicts.forEach((verdict, at) => putVerdict(rows, at, verdict))
  return rows
}
const at = ({ t, f, n }: TruthRows, place: number): Verdict => {
  const has = (words: Uint32Array) => ((words[place >>> 5]! >>> (place & 31)) & 1) === 1
  return ((has(t) ? TRUE : 0) | (has(f) ? FALSE : 0) | (has(n) ? NULL : 0)) as Verdict
}

test('rows come to what each of their places would by itself', () => {
  const [a, b] = [rowsOf(PAIRS.map(([one]) => one)), rowsOf(PAIRS.map(([, other]) => other))]
  const [all, any, not] = [bothRows(a, b), eitherRows(a, b), negatedRows(a)]
  PAIRS.forEach(([one, other], place) => {
    expect([one, other, at(all, place), at(any, place), at(not, place)]).toEqual([one, other, both(one, other), either(one, other), negated(one)])
  })
})
