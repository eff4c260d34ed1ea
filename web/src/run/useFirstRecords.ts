/** What is looked at first of a run: the first records of the list, and the groups. All that the run kept takes the machine for itself, and comes after. */
import type { Listing } from '@dime-gate/contract/change'
import { listedRecordsSchema, ownTraySchema } from '@dime-gate/contract/run-records'
import type { RunSummary } from '@dime-gate/contract/run'
import type { ListedRecord } from '@dime-gate/core/result/listed-record'
import type { Tray } from '@dime-gate/core/result/tray'
import { shallowRef } from 'vue'
import { askWith } from '../shared/api'
import type { RunChoice } from './run-address'

/** As many as a tall window shows. */
const COUNT = 60
/** Up to so many records all of them are here as soon as their groups are. */
const FEW = 50_000
/** Milliseconds after which nobody waits for it any more. */
const PATIENCE = 3000

export function useFirstRecords(runId: () => number) {
  const first = shallowRef<ListedRecord[]>([])
  let asked = 0
  let groupsCame: () => void = () => undefined
  const groups = new Promise<void>((resolve) => (groupsCame = resolve))

  let wanted: { key: string; here: Promise<void> } | null = null

  /** May be asked before the run is known; whoever asks for the same again waits for the same answer. */
  function want({ tray, listing }: Pick<RunChoice, 'tray' | 'listing'>): Promise<void> {
    const key = JSON.stringify([tray, listing])
    if (wanted?.key !== key) wanted = { key, here: look(tray, listing) }
    return wanted.here
  }

  /** Trays that take all records to tell, and lists in another order, are not here before those are. */
  async function look(tray: Tray, { filters, sorts }: Listing): Promise<void> {
    const mine = ++asked
    const own = ownTraySchema.safeParse(tray)
    const isTold = own.success && filters.length === 0 && sorts.length === 0
    const found = isTold ? await askWith(listedRecordsSchema, 'POST', `/runs/${runId()}/first-records`, { tray: own.data, count: COUNT }).catch(() => null) : []
    if (mine !== asked) return
    first.value = found ?? []
    // The run may not have been done yet.
    if (found === null) wanted = null
  }

  /** Ends once it is here, or it has taken too long. */
  async function show({ records }: Pick<RunSummary, 'records'>, choice: Pick<RunChoice, 'tray' | 'listing' | 'shows'>): Promise<void> {
    const isGrouped = records > FEW && (choice.shows === 'groups' || choice.shows === 'figures')
    await Promise.race([Promise.all([want(choice), isGrouped ? groups : null]), new Promise((resolve) => setTimeout(resolve, PATIENCE))])
  }

  return { first, want, show, groupsCame: () => groupsCame() }
}
