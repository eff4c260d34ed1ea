/**
 * Why a record lands elsewhere in a later run than in an earlier one. What the two were made of is taken apart into causes;
 * a set of causes explains a move where the later state of exactly those, with the earlier state of all else, leads where
 * the later run leads. Told are the smallest such sets: one cause by itself, several of which each alone would do, or
 * some that it takes together.
 */
export const CAUSES = ['gate', 'binding', 'figure', 'date', 'value', 'blank filled', 'drawn'] as const
/**
 * `gate`: another version, of it or of one that feeds it; `binding`: other columns stand for its inputs; `figure`: a figure is
 * computed otherwise; `date`: what counts as today; `value`: a given value is another; `blank filled`: a value came where
 * there was none; `drawn`: what comes from other tables is another.
 */
export type Cause = (typeof CAUSES)[number]

/** A set of causes as bits, in the order of `CAUSES`. */
export type CauseSet = number

export function setOf(causes: readonly Cause[]): CauseSet {
  return causes.reduce((set, cause) => set | (1 << CAUSES.indexOf(cause)), 0)
}

export function causesIn(set: CauseSet): Cause[] {
  return CAUSES.filter((_, at) => set & (1 << at))
}

function sizeOf(set: CauseSet): number {
  return causesIn(set).length
}

/**
 * @param active all causes that there can be
 * @param before where each record landed in the earlier run, `after` in the later one
 * @param landsAt where each lands with the later state of some causes, and the earlier state of all else
 * @returns by record the smallest sets that explain its move; none where what the runs kept does not explain it
 */
export function explained(active: CauseSet, before: readonly string[], after: readonly string[], landsAt: (set: CauseSet) => readonly string[]): CauseSet[][] {
  const found = before.map((): CauseSet[] => [])
  const known = landsAt(0)
  // What cannot be told again as it was cannot be explained either.
  let open = before.flatMap((landing, at) => (known[at] === landing ? [at] : []))
  const sets = subsetsOf(active).toSorted((one, other) => sizeOf(one) - sizeOf(other) || one - other)
  for (let size = 1; size <= sizeOf(active) && open.length > 0; size++) {
    for (const set of sets.filter((one) => sizeOf(one) === size)) {
      const lands = landsAt(set)
      for (const at of open) if (lands[at] === after[at]) found[at]!.push(set)
    }
    open = open.filter((at) => found[at]!.length === 0)
  }
  return found
}

/** Every set of some of these causes. */
function subsetsOf(active: CauseSet): CauseSet[] {
  const sets: CauseSet[] = []
  for (let set = active; ; set = (set - 1) & active) {
    sets.push(set)
    if (set === 0) return sets
  }
}
