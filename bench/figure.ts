import { readFile } from 'node:fs/promises'

/** One thing that is measured, and what it has to reach. */
export interface Figure {
  name: string
  /** In words, as it is printed. */
  reach: string
  measure(): Promise<Measured>
}

export interface Measured {
  measured: string
  ok: boolean
}

export function median(values: number[]): number {
  return quantile(values, 0.5)
}

/** The value that `share` of the values do not exceed. */
export function quantile(values: number[], share: number): number {
  const ascending = values.toSorted((a, b) => a - b)
  return ascending[Math.max(0, Math.ceil(share * ascending.length) - 1)]!
}

/** Milliseconds that `work` takes. */
export async function timed(work: () => Promise<unknown>): Promise<number> {
  const start = performance.now()
  await work()
  return performance.now() - start
}

/** The most that a process ever held in memory, in MB. */
export async function mostMemory(pid: number): Promise<number> {
  const [, kilobytes] = /^VmHWM:\s+(\d+) kB$/m.exec(await readFile(`/proc/${pid}/status`, 'utf8'))!
  return Math.round(Number(kilobytes) / 1024)
}
