/** The review with so many exceptions: in Chromium until they are seen, the next one is in hand, one is settled and kept; and ten thousand that are alike. */
import { type Review, reviewSchema } from '@dime-gate/contract/review'
import { gateSchema } from '@dime-gate/contract/gate'
import { runSchema } from '@dime-gate/contract/run'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { askAt } from '../server/testing/bring-in'
import { openDimeGate } from '../e2e/testing/dime-gate'
import { treesFor } from './bring-in-trees'
import { type Figure, median } from './figure'

const RECORDS = 1_000_000
const TURNS = 15
const PATIENCE = 240_000
/** Milliseconds. */
const MOST = { first: 1000, next: 100, settle: 100, alike: 2000 }

export const reviewOfMany: Figure = {
  name: `the review of a run of ${RECORDS.toLocaleString('en')} records in Chromium: first shown; the next one; one settled and kept; all that are alike, settled and taken back; medians`,
  reach: `at most ${MOST.first}; ${MOST.next}; ${MOST.settle}; ${MOST.alike} ms`,
  async measure() {
    const gate = await openDimeGate()
    try {
      const ask = askAt(gate.address)
      const table = await (await treesFor(gate.address, RECORDS))('Trees')
      const draft = plainScale('Decay band', { ...givenNumber('Decay', '%'), tolerance: '0.5' }, ['12', '25', '40'].map((at) => ({ at, owner: 'above' as const })), ['Sound', 'Watch', 'Weak', 'Failing'].map((label) => ({ label, colour: '#56625f', mark: 'disc' as const })))
      const { id: gateId } = gateSchema.parse((await ask('POST', '/gates', { draft, binding: { tableId: table.id, inputs: { Decay: { column: table.columns.find((one) => one.name === 'Decay')!.id } } } })).body)
      await ask('POST', `/gates/${gateId}/versions`, { seen: 1 })
      const { id } = runSchema.parse((await ask('POST', '/runs', { gateId, version: 1, tableId: table.id, binding: 1 })).body)
      while (runSchema.parse((await ask('GET', `/runs/${id}`)).body).state === 'under way') await new Promise((resolve) => setTimeout(resolve, 200))
      const since = performance.now()
      let review: Review
      do review = reviewSchema.parse((await ask('GET', '/review')).body)
      while (review.looking.length > 0)
      const found = performance.now() - since
      const open = review.counts.reduce((sum, { records }) => sum + records, 0)

      const took: Record<keyof typeof MOST, number[]> = { first: [], next: [], settle: [], alike: [] }
      const page = await gate.newPage('/')
      const inHand = () => page.$eval('.panel h2', (head) => head.textContent)
      const until = async (selector: string, since: number) => {
        await page.waitForSelector(selector, { timeout: PATIENCE })
        return performance.now() - since
      }
      const another = async (before: string | null, since: number) => {
        await page.waitForFunction((was) => { const now = document.querySelector('.panel h2')?.textContent; return now && now !== was }, { timeout: PATIENCE, polling: 'mutation' }, before)
        return performance.now() - since
      }
      for (let turn = 0; turn < 5; turn++) {
        const since = performance.now()
        await page.goto(`${gate.address}/review`, { waitUntil: 'domcontentloaded' })
        took.first.push(await until('[data-exception]:not([data-exception=""])', since))
        await until('.panel h2', since)
      }
      for (let turn = 0; turn < TURNS; turn++) {
        const before = await inHand()
        const since = performance.now()
        await page.keyboard.press('ArrowDown')
        took.next.push(await another(before, since))
      }
      for (let turn = 0; turn < TURNS; turn++) {
        const who = await inHand()
        await page.keyboard.press('s')
        await page.waitForSelector('.note input:focus')
        const since = performance.now()
        await page.keyboard.press('Enter')
        took.settle.push(await until(`[data-exception="${who}"][data-state=settled]`, since))
        await another(who, since)
      }
      const { runId, record } = await biggest(ask, id)
      const alike = async () => {
        const detail = (await ask('GET', `/review/runs/${runId}/records/${record}`)).body as { alike: number; mark: { id: number } | null }
        const since = performance.now()
        const { body } = await ask('POST', '/review/acts', { kind: 'settled', of: { runId, record, mark: detail.mark?.id ?? null }, isAlike: true, note: 'alike', by: '', outcomes: null })
        took.alike.push(performance.now() - since)
        await ask('DELETE', `/review/acts/${(body as { act: number }).act}`)
        return detail.alike + 1
      }
      const many = await alike()
      await alike()
      const middle = Object.fromEntries(Object.entries(took).map(([name, all]) => [name, median(all)])) as Record<keyof typeof MOST, number>
      const words = Object.values(middle).map((one) => one.toFixed(0)).join('; ')
      return { measured: `${words} ms, of ${open.toLocaleString('en')} that wait, found in ${(found / 1000).toFixed(1)} s, and ${many.toLocaleString('en')} alike`, ok: (Object.keys(MOST) as (keyof typeof MOST)[]).every((name) => middle[name] <= MOST[name]) }
    } finally {
      await gate.close()
    }
  },
}

/** One of the kind that has the most. */
async function biggest(ask: ReturnType<typeof askAt>, runId: number): Promise<{ runId: number; record: number }> {
  const { counts } = reviewSchema.parse((await ask('GET', '/review')).body)
  const [most] = counts.filter((one) => one.runId === runId && one.state === 'open').toSorted((a, b) => b.records - a.records)
  for (let record = 1; record < 5000; record++) {
    const { status, body } = await ask('GET', `/review/runs/${runId}/records/${record}`)
    if (status === 200 && (body as { kind: string; state: string }).kind === most!.kind && (body as { state: string }).state === 'open') return { runId, record }
  }
  throw new Error('none of the commonest kind is among the first records')
}
