/** Trees and the reports of them on a server of their own, and what tests ask of tables; for tests. */
import type { ChangeAnswer, ChangeRequest, Listing } from '@dime-gate/contract/change'
import type { Drawn, Take } from '@dime-gate/contract/drawn'
import type { Cell, Table, TableRecord } from '@dime-gate/contract/table'
import { bringIn } from './bring-in'
import { type TemporaryServer, temporaryServer } from './temporary-server'

export const READING = { decimalMark: 'point', dateOrder: 'day' } as const
const TREES = 'Tree no,Ward,Height,Planted\nT 1,North,10,2001-05-04\nT 2,North,20.5,2001-12-31\nT 3,South,,2002-01-01\nT 4,,5,\n'
const REPORTS =
  'Report,Tree,Severity,Reported\nR1,T 1,3,2026-01-02\nR2,T 1,1,2026-02-03\nR3,T 2,,2026-01-09\nR4,T 9,5,2026-03-01\nR5,,2,2026-03-01\n'

type OfTable = Pick<Table, 'id'>

export const idOf = (table: Table, name: string): number => table.columns.find((one) => one.name === name)!.id

export interface RelatedMore {
  take: Take
  of?: string
  where?: string
  none?: 'nothing' | 'blank'
}

/** What is taken of a tree's reports. */
export function related(trees: Table, reports: Table, { take, of, where, none = 'nothing' }: RelatedMore): Drawn & { kind: 'related' } {
  const keys = [{ own: idOf(trees, 'Tree no'), theirs: idOf(reports, 'Tree'), part: 'whole' as const }]
  return { kind: 'related', table: reports.id, keys, take, of: of === undefined ? null : idOf(reports, of), where: where ?? null, none }
}

export class TreesServer {
  private number = 0

  private constructor(readonly server: TemporaryServer) {}

  static async start(): Promise<TreesServer> {
    const server = await temporaryServer()
    await server.ask('PUT', '/workspace', { asOf: '2026-03-02' })
    return new TreesServer(server)
  }

  close(): Promise<void> {
    return this.server.close()
  }

  /** A name that no table has yet. */
  name(word: string): string {
    return `${word} ${++this.number}`
  }

  async tables(): Promise<{ trees: Table; reports: Table }> {
    const n = ++this.number
    const trees = await bringIn(this.server, `Trees ${n}`, TREES, ({ columns }) => (columns[0]!.isIdentity = true))
    return { trees, reports: await bringIn(this.server, `Reports ${n}`, REPORTS) }
  }

  async change(table: OfTable, request: ChangeRequest): Promise<ChangeAnswer> {
    const { status, body } = await this.server.ask('POST', `/tables/${table.id}/changes`, request)
    expect([status, body]).toEqual([200, body])
    return body
  }

  /** The answer, whatever it is. */
  asked(table: OfTable, request: ChangeRequest): Promise<{ status: number; body: { code: string; message: string } }> {
    return this.server.ask('POST', `/tables/${table.id}/changes`, request)
  }

  async add(table: OfTable, name: string, drawn: Drawn): Promise<Table> {
    return (await this.change(table, { kind: 'add drawn', name, unit: '', drawn })).table
  }

  set(table: Table, record: number, name: string, text: string, seen: Cell): Promise<ChangeAnswer> {
    return this.change(table, { kind: 'values', reading: READING, cells: [{ record, column: idOf(table, name), text, seen }] })
  }

  async now({ id }: OfTable): Promise<Table> {
    return (await this.server.ask('GET', `/tables/${id}`)).body
  }

  async listed({ id }: OfTable, { filters = [], sorts = [] }: Partial<Listing> = {}): Promise<number[]> {
    const response = await this.server.fetch(`/api/v1/tables/${id}/listings`, { method: 'POST', body: JSON.stringify({ filters, sorts }) })
    expect(response.status).toBe(200)
    return [...new Int32Array(await response.arrayBuffer())]
  }

  /** By record what stands in some columns. */
  async cellsOf(table: OfTable, ...names: string[]): Promise<(string | null)[][]> {
    const records = await this.listed(table)
    const { columns } = await this.now(table)
    const { body } = await this.server.ask('POST', `/tables/${table.id}/records`, { records })
    const places = names.map((name) => columns.findIndex((column) => column.name === name))
    return (body as TableRecord[]).map(({ cells }) => places.map((at) => cells[at]![0]))
  }

  async valuesOf(table: OfTable, name: string): Promise<(string | null)[]> {
    return (await this.cellsOf(table, name)).map(([value]) => value ?? null)
  }
}
