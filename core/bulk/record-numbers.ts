/** A number for each record of a table: its cell, made up class by class. */

/** A number for each record. */
export type RecordNumbers = Uint16Array | Uint32Array

export function roomForNumbers(count: number, length: number): RecordNumbers {
  return count <= 0x10000 ? new Uint16Array(length) : new Uint32Array(length)
}

/**
 * Puts each record's class behind its number: what was `n` is `n × width + class`.
 * @param numbers of a run of records
 * @param width at least the number of classes
 * @param from the first record of the run
 */
export type AddClasses = (numbers: RecordNumbers, width: number, from: number) => void
