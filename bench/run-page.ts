/** The page of a run of a million records, and its comparison with another: from the address until something is to be seen. */
import { gateSchema } from '@dime-gate/contract/gate'
import { type Run, runSchema } from '@dime-gate/contract/run'
import { runGroupsSchema } from '@dime-gate/contract/run-groups'
import type { Table } from '@dime-gate/contract/table'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { askAt } from '../server/testing/bring-in'
import { openDimeGate } from '../e2e/testing/dime-gate'
import { treesFor } from './bring-in-trees'
import { drawnAfter } from './drawn-in-page'
import { type Figure, median } from './figure'

const RECORDS = 1_000_000
const TURNS = 5
const PATIENCE = 240_000
/** Milliseconds. */
const MOST = { counts: 500, records: 1000, groups: 1500, comparison: 2000 }
/** The group that is asked for has about so many values. */
const GROUPS = 200

export const runPage: Figure = {
  name: `the page of a run of ${RECORDS.toLocaleString('en')} records in Chromium: counts; first records; by a group of about ${GROUPS}; compared with another run; medians`,
  reach: `at most ${MOST.counts}; ${MOST.records}; ${MOST.groups}; ${MOST.comparison} ms`,
  async measure() {
    const gate = await openDimeGate()
    try {
      const ask = askAt(gate.address)
      const table = await (await treesFor(gate.address, RECORDS))('Trees')
      const [first, second] = [await runOf(ask, table, 'First', ['12', '25', '40']), await runOf(ask, table, 'Second', ['12', '24', '41'])]
      const column = await groupingOf(ask, first)
      const took: Record<keyof typeof MOST, number[]> = { counts: [], records: [], groups: [], comparison: [] }
      for (let turn = 0; turn < TURNS; turn++) {
        const page = await gate.newPage('/')
        const until = (address: string, ...selectors: string[]) => drawnAfter(page, gate.address + address, selectors, PATIENCE)
        const [counts, records] = await until(`/runs/${first.id}?shows=decided`, '.tube', '.records [data-record]')
        took.counts.push(counts!)
        took.records.push(records!)
        took.groups.push((await until(`/runs/${first.id}?by=${column}`, 'tr[data-group]'))[0]!)
        took.comparison.push((await until(`/runs/${first.id}/against/${second.id}`, '.flows path'))[0]!)
        await page.close()
      }
      const middle = Object.fromEntries(Object.entries(took).map(([name, all]) => [name, median(all)])) as Record<keyof typeof MOST, number>
      const words = Object.values(middle).map((one) => one.toFixed(0)).join('; ')
      return { measured: `${words} ms`, ok: (Object.keys(MOST) as (keyof typeof MOST)[]).every((name) => middle[name] <= MOST[name]) }
    } finally {
      await gate.close()
    }
  },
}

async function runOf(ask: ReturnType<typeof askAt>, table: Table, name: string, cuts: string[]): Promise<Run> {
  const draft = plainScale(name, givenNumber('Decay', '%'), cuts.map((at) => ({ at, owner: 'above' as const })), ['Sound', 'Watch', 'Weak', 'Failing'].map((label) => ({ label, colour: '#56625f', mark: 'disc' as const })))
  const { id: gateId } = gateSchema.parse((await ask('POST', '/gates', { draft, binding: { tableId: table.id, inputs: { Decay: { column: table.columns.find((one) => one.name === 'Decay')!.id } } } })).body)
  await ask('POST', `/gates/${gateId}/versions`, { seen: 1 })
  let run = runSchema.parse((await ask('POST', '/runs', { gateId, version: 1, tableId: table.id, binding: 1 })).body)
  while (run.state === 'under way') {
    await new Promise((resolve) => setTimeout(resolve, 200))
    run = runSchema.parse((await ask('GET', `/runs/${run.id}`)).body)
  }
  if (run.state === 'failed') throw new Error(run.problem ?? '')
  return run
}

/** Of the columns that the gate does not look at, the one with about as many values. */
async function groupingOf(ask: ReturnType<typeof askAt>, run: Run): Promise<number> {
  const counted = await Promise.all(run.columns.filter(({ id }) => !run.seen.includes(id)).map(async ({ id }) => {
    const { status, body } = await ask('GET', `/runs/${run.id}/groups/${id}`)
    return { id, groups: status === 200 ? runGroupsSchema.parse(body).groups.length : Infinity }
  }))
  return counted.toSorted((a, b) => Math.abs(a.groups - GROUPS) - Math.abs(b.groups - GROUPS))[0]!.id
}
