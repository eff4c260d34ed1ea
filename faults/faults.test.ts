import { temporaryDatabase, type TemporaryDatabase } from '../server/testing/temporary-server'
import { FAULTS, runFaults } from './run-faults'
import { World } from './world'

const SEED = 20260302

let temporary: TemporaryDatabase
let world: World
beforeAll(async () => {
  temporary = await temporaryDatabase()
  world = await World.start(temporary.url)
})
afterAll(async () => {
  await world.stop()
  await temporary.drop()
})

test('whatever happens to server and database, what was acknowledged is there, and what was not is absent or whole', async () => {
  const { faults, operations, checks, problems } = await runFaults(world, SEED, FAULTS, (done) => done < FAULTS.length)
  expect(problems).toEqual([])
  expect(faults).toBe(FAULTS.length)
  expect(Math.min(operations, checks)).toBeGreaterThan(50)
}, 240_000)
