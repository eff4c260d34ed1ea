/** Where an answer is made. */
export interface Place {
  /** The number of an open file, which it is written to. */
  fd: number
  /** So many bytes are written by now. */
  grown(size: number): void
  /** Aborts where nobody waits for it any more. */
  left: AbortSignal
}
