/** A table from CSV text, read as its preview suggests; for tests. */
import type { Table } from '@dime-gate/contract/table'
import { previewTable } from '@dime-gate/interchange/table/preview'
import type { TemporaryServer } from './temporary-server'

export function importPath(text: string, name: string, change: (settings: ReturnType<typeof previewTable>['settings']) => void = () => undefined): string {
  const { settings } = previewTable(new TextEncoder().encode(text), true)
  change(settings)
  return `/tables?${new URLSearchParams({ request: JSON.stringify({ name, fileName: `${name}.csv`, settings }) })}`
}

export async function bringIn(server: TemporaryServer, name: string, text: string, change?: Parameters<typeof importPath>[2]): Promise<Table> {
  const { status, body } = await server.ask('POST', importPath(text, name, change), text)
  if (status !== 201) throw new Error(JSON.stringify(body))
  return body
}
