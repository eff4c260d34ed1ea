/**
 * Runs everything that must hold: checks, unit tests, the server on a real database, the interface in a
 * real browser. Arguments go to Jest, which then runs alone: `npm test -- core/gate`.
 */
import { spawn } from 'node:child_process'
import { mkdir, readFile, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { CHECKS } from './checks'
import { installChromium } from './chromium'
import { isAlive } from './lock.mjs'
import { shell } from './shell'
import { joinCluster, leftClusters, removeCluster } from './postgres'

const CLUSTER = `test-${process.pid}`
/** Data that lives for one test run need not survive a power cut. */
const FAST = ['fsync=off', 'synchronous_commit=off', 'full_page_writes=off']

interface JestReport {
  numPassedTests: number
  numFailedTests: number
  numRuntimeErrorTestSuites: number
}

let passed = 0
let failed = 0
let jest: ReturnType<typeof spawn> | null = null
let ended = false

for (const signal of ['SIGINT', 'SIGTERM', 'disconnect'] as const) process.on(signal, () => void end(130))

try {
  await removeLeftovers()
  const asked = process.argv.slice(2)
  if (asked.length === 0) await runChecks()
  await shell(process.execPath, ['--import', 'tsx', 'tools/build-now.ts'])
  await installChromium()
  await runJest(asked)
} catch (error) {
  console.log((error as Error).stack)
  failed++
}
await end(failed === 0 && passed > 0 ? 0 : 1)

async function runChecks(): Promise<void> {
  for (const { name, run } of CHECKS) {
    try {
      await run()
      passed++
      console.log(`ok      ${name}`)
    } catch (error) {
      failed++
      console.log(`failed  ${name}\n${(error as Error).message}`)
    }
  }
}

async function runJest(asked: string[]): Promise<void> {
  const { url } = await joinCluster(CLUSTER, FAST)
  const reportPath = join('.data', `${CLUSTER}.report`)
  await mkdir('.data', { recursive: true })
  jest = spawn(process.execPath, ['node_modules/.bin/jest', '--json', `--outputFile=${reportPath}`, '--maxWorkers=2', ...asked], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, TEST_DATABASE_URL: url, BUILT_THREADS: '1' },
  })
  await new Promise((resolve) => jest!.once('exit', resolve))
  const report = await readFile(reportPath, 'utf8').then((text) => JSON.parse(text) as JestReport)
  await rm(reportPath, { force: true })
  passed += report.numPassedTests
  failed += report.numFailedTests + report.numRuntimeErrorTestSuites
}

/** What earlier runs left that were killed before they could clean up. */
async function removeLeftovers(): Promise<void> {
  for (const name of await leftClusters('test-')) {
    if (!isAlive(Number(name.split('-')[1]))) await removeCluster(name)
  }
}

async function end(code: number): Promise<never> {
  if (ended) return new Promise(() => undefined)
  ended = true
  jest?.kill('SIGTERM')
  await removeCluster(CLUSTER)
  console.log(`${passed} passed, ${failed} failed`)
  process.exit(code)
}
