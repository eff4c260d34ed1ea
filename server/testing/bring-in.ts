/** A table from CSV text, read as its preview suggests; for tests, and whoever brings in files over the wire as the page does. */
import { API } from '@dime-gate/contract/api'
import type { Table } from '@dime-gate/contract/table'
import { previewTable } from '@dime-gate/interchange/table/preview'
import type { TableSettings } from '@dime-gate/interchange/table/settings'

type Ask = (method: string, path: string, body?: unknown) => Promise<{ status: number; body: unknown }>

export function settingsOf(text: string, change: (settings: TableSettings) => void = () => undefined): TableSettings {
  const { settings } = previewTable(new TextEncoder().encode(text), true)
  change(settings)
  return settings
}

/** Sends the file, then makes it a table. @returns the last answer */
export async function importBy(ask: Ask, name: string, text: string | Uint8Array, settings: TableSettings): Promise<{ status: number; body: unknown }> {
  const sent = await ask('POST', `/files?${new URLSearchParams({ name: `${name}.csv` })}`, text)
  if (sent.status !== 201) return sent
  return ask('POST', '/tables', { file: (sent.body as { id: string }).id, name, settings })
}

/** Asks a server by its address. */
export function askAt(address: string): Ask {
  return async (method, path, body) => {
    const isText = typeof body === 'string' || body instanceof Uint8Array
    const response = await fetch(`${address}${API}${path}`, { method, body: body === undefined ? undefined : isText ? (body as never) : JSON.stringify(body) })
    return { status: response.status, body: await response.json() }
  }
}

export async function bringIn(server: { ask: Ask }, name: string, text: string, change?: Parameters<typeof settingsOf>[1]): Promise<Table> {
  const { status, body } = await importBy(server.ask, name, text, settingsOf(text, change))
  if (status !== 201) throw new Error(JSON.stringify(body))
  return body as Table
}
