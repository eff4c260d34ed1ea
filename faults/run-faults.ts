/** Clients at work, one fault after the other, and a look at everything after each. */
import { chance } from '@dime-gate/demo/chance'
import { Client } from './clients'
import { Ledger } from './ledger'
import { verify } from './verify'
import { pause, type World } from './world'

export interface Fault {
  name: string
  happen(world: World): Promise<void>
}

/** What can happen wherever the database runs. */
export const FAULTS: Fault[] = [
  { name: 'the server is killed', happen: (world) => world.killServer() },
  { name: 'all connections to the database break', happen: (world) => world.breakConnections() },
  { name: 'the database refuses connections for a while', happen: (world) => world.refuseConnections(1500) },
  { name: 'the server stands still for a while', happen: (world) => world.freezeServer(1500) },
  { name: 'the server is asked to end', happen: (world) => world.endServer() },
  { name: 'a second server is started on the same database', happen: (world) => world.startAnother(1500) },
]

const CLIENTS = 4

export interface Outcome {
  faults: number
  operations: number
  checks: number
  problems: string[]
}

/** @param goOn asked before each fault, with how many there were */
export async function runFaults(world: World, seed: number, faults: readonly Fault[], goOn: (done: number) => boolean, tell: (line: string) => void = () => undefined): Promise<Outcome> {
  const ledger = new Ledger()
  const happening = chance(seed)
  let done = 0
  // All kinds come before any comes again.
  let left: Fault[] = []
  for (; goOn(done) && ledger.problems.length === 0; done++) {
    if (left.length === 0) left = [...faults]
    const fault = left.splice(happening.whole(0, left.length - 1), 1)[0]!
    let isOver = false
    const clients = Array.from({ length: CLIENTS }, async (_, at) => {
      const client = new Client(world, ledger, chance(seed * 1000 + done * CLIENTS + at), `Round ${done}, client ${at}`)
      while (!isOver) await client.act()
    })
    await pause(happening.whole(300, 2500))
    try {
      await fault.happen(world)
    } catch (error) {
      ledger.problems.push((error as Error).message)
    }
    await pause(happening.whole(100, 1000))
    isOver = true
    await Promise.all(clients)
    try {
      await world.back()
      await verify(world, ledger)
    } catch (error) {
      ledger.problems.push((error as Error).message)
    }
    tell(`${done + 1}. ${fault.name}: ${ledger.operations} operations, ${ledger.checks} checks so far${ledger.problems.map((problem) => `\n   ${problem}`).join('')}`)
  }
  return { faults: done, operations: ledger.operations, checks: ledger.checks, problems: ledger.problems }
}
