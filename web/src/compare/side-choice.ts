/** What can stand on one side of a comparison, as an address says it: `gate 5 draft`, `gate 5 2`, `column 12`. */
import type { GateSummary } from '@dime-gate/contract/gate'
import type { Column } from '@dime-gate/contract/table'

export type SideChoice = { kind: 'gate'; id: number; version: number | 'draft' } | { kind: 'column'; id: number }

export function sideText(choice: SideChoice): string {
  return choice.kind === 'column' ? `column ${choice.id}` : `gate ${choice.id} ${choice.version}`
}

/** @returns null where the text says none */
export function readSide(text: unknown): SideChoice | null {
  const [, gate, version, column] = /^(?:gate (\d+) (draft|\d+)|column (\d+))$/.exec(typeof text === 'string' ? text : '') ?? []
  if (column !== undefined) return { kind: 'column', id: Number(column) }
  return gate === undefined ? null : { kind: 'gate', id: Number(gate), version: version === 'draft' ? 'draft' : Number(version) }
}

/** As many versions of a gate as are offered. */
const MOST_VERSIONS = 20

/** All that can be compared on a table: each of its gates as drafted and as it was set, the newest first; and its columns of texts. */
export function sideChoices(gates: readonly Pick<GateSummary, 'id' | 'name' | 'latestVersion' | 'tables'>[], tableId: number, columns: readonly Pick<Column, 'id' | 'name' | 'type'>[]): { value: string; title: string }[] {
  const own = gates.filter(({ tables }) => tables.some(({ id }) => id === tableId))
  return [
    ...own.flatMap(({ id, name, latestVersion }) => [
      { value: sideText({ kind: 'gate', id, version: 'draft' }), title: `${name}, as drafted` },
      ...Array.from({ length: Math.min(latestVersion, MOST_VERSIONS) }, (_, at) => ({ value: sideText({ kind: 'gate', id, version: latestVersion - at }), title: `${name}, version ${latestVersion - at}` })),
    ]),
    ...columns.filter(({ type }) => type === 'text').map(({ id, name }) => ({ value: sideText({ kind: 'column', id }), title: `the column ${name}` })),
  ]
}
