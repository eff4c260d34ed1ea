import type { FileHandle } from 'node:fs/promises'
import type { Progress } from '@dime-gate/contract/table'
import type { LookResult, LookTask } from '../file/look-at-file'
import { unnamedFile } from '../file/unnamed-file'
import { ThreadPool } from './thread-pool'

/** No task here asks the database. */
const NOWHERE = 'postgresql://nobody@127.0.0.1:1/nothing'
const RECORDS = 300_000

let pool: ThreadPool<LookTask, Progress, LookResult>
const opened: FileHandle[] = []
beforeEach(() => {
  pool = new ThreadPool(NOWHERE, 1)
})
afterEach(async () => {
  await pool.close()
  for (const file of opened.splice(0)) await file.close()
})

/** A look at a file of so many records, which takes a while. */
async function look(records = RECORDS, text = `Tree,Trunk\n${'T,1\n'.repeat(records)}`): Promise<LookTask> {
  const [file, plain] = [await unnamedFile(), await unnamedFile()]
  opened.push(file, plain)
  await file.write(text)
  return { kind: 'look', source: { fd: file.fd, size: Buffer.byteLength(text), plainFd: plain.fd, plain: null }, choice: {} }
}

const recordsOf = ({ look: { statistics } }: LookResult) => statistics!.records

test('tasks that find no thread free wait, are told so, and are done in the order in which they came', async () => {
  const done: string[] = []
  const delayed: string[] = []
  const run = async (name: string, records: number) => {
    const result = await pool.do(await look(records), { delayed: () => delayed.push(name) })
    done.push(name)
    return recordsOf(result)
  }
  const first = run('first', RECORDS)
  await new Promise((resolve) => setTimeout(resolve, 100))
  const others = [run('second', 10)]
  await new Promise((resolve) => setTimeout(resolve, 50))
  others.push(run('third', 20))
  expect(await Promise.all([first, ...others])).toEqual([RECORDS, 10, 20])
  expect([done, delayed]).toEqual([
    ['first', 'second', 'third'],
    ['second', 'third'],
  ])
})

test('one who stops waiting is passed over, and the next has the turn', async () => {
  const first = pool.do(await look())
  const stop = new AbortController()
  const second = pool.do(await look(10), { signal: stop.signal })
  const third = pool.do(await look(20))
  stop.abort()
  await expect(second).rejects.toThrow('nobody waits for it any more')
  expect([recordsOf(await first), recordsOf(await third)]).toEqual([RECORDS, 20])
})

test('a task that is broken off ends soon, and its thread does the next', async () => {
  const stop = new AbortController()
  const heard: number[] = []
  const broken = pool.do(await look(5 * RECORDS), {
    signal: stop.signal,
    heard: ({ records }) => {
      heard.push(records)
      stop.abort()
    },
  })
  await expect(broken).rejects.toThrow('nobody waits for it any more')
  expect(heard[0]).toBeLessThan(5 * RECORDS)
  expect(recordsOf(await pool.do(await look(10)))).toBe(10)
})

test('one that nobody waits for from the start is never begun, or ended at once', async () => {
  await expect(pool.do(await look(), { signal: AbortSignal.abort() })).rejects.toThrow()
  expect(recordsOf(await pool.do(await look(10)))).toBe(10)
})

test('what a file has wrong comes back as what it is', async () => {
  await expect(pool.do(await look(0, ''))).rejects.toMatchObject({ problem: { code: 'empty', line: 1 } })
})

test('the end of the pool ends what is under way and what waits', async () => {
  const all = [pool.do(await look(5 * RECORDS)), pool.do(await look(10))]
  const ended = Promise.allSettled(all)
  await new Promise((resolve) => setTimeout(resolve, 100))
  await pool.close()
  expect((await ended).map(({ status }) => status)).toEqual(['rejected', 'rejected'])
  await expect(pool.do(await look(10))).rejects.toThrow('the program is ending')
})

test('a thread that was made ready takes the first task: there is no room for another', async () => {
  pool.getReady()
  pool.getReady()
  const delayed = jest.fn()
  expect(recordsOf(await pool.do(await look(10), { delayed }))).toBe(10)
  expect(delayed).not.toHaveBeenCalled()
})
