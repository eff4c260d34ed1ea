/** Clients that bring in tables, make and change gates, keep runs and take results, whatever happens meanwhile. */
import { once } from 'node:events'
import { type IncomingMessage, request } from 'node:http'
import type { ChangeAnswer } from '@dime-gate/contract/change'
import type { Gate } from '@dime-gate/contract/gate'
import type { Run } from '@dime-gate/contract/run'
import type { Table } from '@dime-gate/contract/table'
import { API } from '@dime-gate/contract/api'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import type { Chance } from '@dime-gate/demo/chance'
import { recordsOfText } from '@dime-gate/interchange/table/read-records'
import { settingsOf } from '../server/testing/bring-in'
import { type Ledger, treeOf, valueOf } from './ledger'
import { pause, type World } from './world'

const MOST_RECORDS = 20_000
const PIECES = 8
const READING = { decimalMark: 'point', dateOrder: 'day' }
const LABELS = ['low', 'high'].map((label) => ({ label, colour: '#7fa99a', mark: 'disc' as const }))

export class Client {
  private made = 0

  constructor(private readonly world: World, private readonly ledger: Ledger, private readonly chance: Chance, private readonly name: string) {}

  async act(): Promise<void> {
    this.ledger.operations++
    const act = this.chance.weighted([[this.bringIn, 4], [this.breakOff, 1], [this.sendSlowly, 1], [this.makeGate, 3], [this.change, 6], [this.keep, 3], [this.correct, 5], [this.appendNothing, 1], [this.take, 3], [this.goAway, 1], [this.look, 2]] as const)
    await act()
  }

  private readonly bringIn = async (): Promise<void> => {
    const { name, records, text } = this.file()
    const sent = await this.ask<{ id: string }>('POST', filePath(name), text)
    if (sent.status === 201) await this.makeTable(name, records, text, sent.body.id)
  }

  /** A file that comes in pieces, from somebody whose line is bad. */
  private readonly sendSlowly = async (): Promise<void> => {
    const { name, records, text } = this.file()
    const sent = this.upload(text, name)
    const answered = once(sent, 'response').catch(() => null)
    for (let at = 0; at < PIECES && !sent.destroyed; at++) {
      sent.write(text.slice(Math.floor((at * text.length) / PIECES), Math.floor(((at + 1) * text.length) / PIECES)))
      await pause(this.chance.whole(0, 200))
    }
    sent.end()
    const [response] = (await answered) as [IncomingMessage] | null ?? []
    if (!response) return
    const pieces: Buffer[] = []
    for await (const piece of response as AsyncIterable<Buffer>) pieces.push(piece)
    this.ledger.check(response.statusCode !== 500, () => 'a file sent slowly was answered with 500')
    if (response.statusCode === 201) await this.makeTable(name, records, text, (JSON.parse(Buffer.concat(pieces).toString()) as { id: string }).id)
  }

  private async makeTable(name: string, records: number, text: string, file: string): Promise<void> {
    const { status, body } = await this.ask<Table>('POST', '/tables', { file, name, settings: settingsOf(text) })
    if (status === 201) this.ledger.tables.set(body.id, { name, records, corrected: new Map() })
    else this.ledger.maybeTables.set(name, records)
  }

  /** A file that is never sent to its end. */
  private readonly breakOff = async (): Promise<void> => {
    const { name, records, text } = this.file()
    const sent = this.upload(text, name)
    sent.write(text.slice(0, Math.floor(text.length / 2)))
    await pause(this.chance.whole(0, 200))
    sent.destroy()
    // It must not be there at all; looked at like one that may be, and its records are not.
    this.ledger.maybeTables.set(name, records)
  }

  private upload(text: string, name: string) {
    const sent = request(`${this.world.address}${API}${filePath(name)}`, { method: 'POST', headers: { 'Content-Length': text.length } })
    sent.on('error', () => undefined)
    return sent
  }

  private file() {
    const records = this.chance.whole(10, MOST_RECORDS)
    const text = `Tree,Value\n${Array.from({ length: records }, (_, at) => `${treeOf(at + 1)},${valueOf(at + 1)}\n`).join('')}`
    return { name: `${this.name} ${++this.made}`, records, text }
  }

  private readonly makeGate = async (): Promise<void> => {
    const [tableId] = this.one(this.ledger.tables) ?? []
    if (tableId === undefined) return
    const table = await this.ask<Table>('GET', `/tables/${tableId}`)
    if (table.status !== 200) return
    const cut = this.chance.whole(1, 99)
    const inputs = { Value: { column: table.body.columns[1]!.id } }
    const gate = await this.ask<Gate>('POST', '/gates', { draft: scaleAt(`${this.name} gate ${++this.made}`, cut), binding: { tableId, inputs } })
    if (gate.status !== 201) return
    const { id, draftVersion } = gate.body
    const set = await this.ask<Gate>('POST', `/gates/${id}/versions`, { seen: draftVersion })
    if (set.status === 200 || set.status === 201) this.ledger.gates.set(id, { tableId, first: cut, draftVersion, cut, maybe: null })
  }

  private readonly change = async (): Promise<void> => {
    const [id, known] = this.one(this.ledger.gates) ?? []
    if (!known || known.maybe !== null) return
    const cut = this.chance.whole(1, 99)
    // Nobody else may change it before the answer is here.
    known.maybe = cut
    const stored = await this.ask<Gate>('GET', `/gates/${id}`)
    const draft = stored.status === 200 ? (stored.body.draft as ScaleGate) : null
    if (!draft) return void (known.maybe = null)
    const { status, body } = await this.ask<Gate>('PUT', `/gates/${id}/draft`, { draft: { ...draft, cuts: [{ ...draft.cuts[0]!, at: String(cut) }] }, seen: known.draftVersion })
    if (status === 200) Object.assign(known, { cut, draftVersion: body.draftVersion, maybe: null })
    else if (status >= 400 && status < 500) this.ledger.problems.push(`a change of gate ${id} was refused with ${status}: ${JSON.stringify(body)}`)
  }

  /** A name is corrected; the values, by which runs are checked, stay. */
  private readonly correct = async (): Promise<void> => {
    const [tableId, known] = this.one(this.ledger.tables) ?? []
    if (!known) return
    const record = this.chance.whole(1, Math.min(known.records, 50))
    const before = known.corrected.get(record) ?? { text: treeOf(record), maybe: null }
    if (before.maybe !== null) return
    const text = `${this.name} ${++this.made}`
    // Nobody else may correct it before the answer is here.
    known.corrected.set(record, { text: before.text, maybe: text })
    const table = await this.ask<Table>('GET', `/tables/${tableId}`)
    if (table.status !== 200) return void known.corrected.set(record, before)
    const cell = { record, column: table.body.columns[0]!.id, text, seen: [before.text, null] }
    const { status, body } = await this.ask<ChangeAnswer>('POST', `/tables/${tableId}/changes`, { kind: 'values', reading: READING, cells: [cell] })
    if (status === 200 && body.change) known.corrected.set(record, { text, maybe: null })
    else if (status === 200) this.ledger.problems.push(`a correction of record ${record} of table ${tableId} met ${JSON.stringify(body.conflicts)} where ${before.text} was acknowledged`)
    else if (status >= 400 && status < 500) this.ledger.problems.push(`a correction was refused with ${status}: ${JSON.stringify(body)}`)
  }

  /** A file goes into a table in a trial: whatever breaks meanwhile, nothing of it may stay. */
  private readonly appendNothing = async (): Promise<void> => {
    const [tableId] = this.one(this.ledger.tables) ?? []
    if (tableId === undefined) return
    const { name, text } = this.file()
    const sent = await this.ask<{ id: string }>('POST', filePath(name), text)
    if (sent.status === 201) await this.ask('POST', `/tables/${tableId}/merges`, { file: sent.body.id, settings: settingsOf(text), isReplacing: true, isTrial: true })
  }

  private readonly keep = async (): Promise<void> => {
    const [gateId, known] = this.one(this.ledger.gates) ?? []
    if (!known) return
    const { status, body } = await this.ask<Run>('POST', '/runs', { gateId, version: 1, tableId: known.tableId, binding: 1 })
    if (status === 201) this.ledger.runs.set(body.id, { gateId: gateId! })
  }

  /** The labelled table, read as fast as it comes or slowly; what ends well is whole. */
  private readonly take = async (): Promise<void> => {
    const [id, known] = this.one(this.ledger.runs) ?? []
    if (!known) return
    const slow = this.chance.share() < 0.3
    try {
      const response = await fetch(`${this.world.address}${API}/runs/${id}/labelled.csv`)
      if (response.status !== 200) return
      const pieces: Uint8Array[] = []
      for await (const piece of response.body as unknown as AsyncIterable<Uint8Array>) {
        pieces.push(piece)
        if (slow) await pause(20)
      }
      const { records } = recordsOfText(Buffer.concat(pieces).toString('utf8'), ',')
      const expected = this.ledger.tables.get(this.ledger.gates.get(known.gateId)!.tableId)!.records
      this.ledger.check(records.length === expected + 1, () => `the labelled table of run ${id} has ${records.length - 1} records of ${expected}`)
    } catch {
      // Broken off, and told as that.
    }
  }

  /** A reader who has had enough in the middle. */
  private readonly goAway = async (): Promise<void> => {
    const [id] = this.one(this.ledger.runs) ?? []
    if (id === undefined) return
    const asked = request(`${this.world.address}${API}/runs/${id}/labelled.csv`, { agent: false })
    asked.on('error', () => undefined)
    asked.end()
    const [response] = (await once(asked, 'response').catch(() => [])) as [IncomingMessage?]
    if (response) await once(response, 'data').catch(() => undefined)
    asked.destroy()
  }

  private readonly look = async (): Promise<void> => {
    await this.ask('GET', '/desk')
  }

  private async ask<Body>(method: string, path: string, body?: unknown) {
    const answer = await this.world.ask<Body>(method, path, body)
    this.ledger.check(answer.status !== 500, () => `${method} ${path.slice(0, 60)} was answered with 500`)
    return answer
  }

  private one<Key, Value>(all: ReadonlyMap<Key, Value>): [Key, Value] | null {
    return all.size === 0 ? null : this.chance.one([...all])
  }
}

function filePath(name: string): string {
  return `/files?${new URLSearchParams({ name: `${name}.csv` })}`
}

function scaleAt(name: string, cut: number): ScaleGate {
  return plainScale(name, givenNumber('Value', ''), [{ at: String(cut), owner: 'above' }], LABELS)
}
