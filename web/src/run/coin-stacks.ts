/** How many records one coin stands for, so that the fullest tray still fits. */

/** A stack higher than this cannot be told from its neighbours. */
const MOST_COINS = 56

/** The least of 1, 2, 5, 10, 20 … records a coin with which no tray has more than MOST_COINS. */
export function recordsPerCoin(trays: number[]): number {
  const most = Math.max(1, ...trays)
  for (let power = 1; ; power *= 10) {
    for (const factor of [1, 2, 5]) if (most / (factor * power) <= MOST_COINS) return factor * power
  }
}

/** Whole coins and the part of one left over, 0 to below 1. */
export function coinsOf(records: number, perCoin: number): { whole: number; part: number } {
  const whole = Math.floor(records / perCoin)
  return { whole, part: records / perCoin - whole }
}
