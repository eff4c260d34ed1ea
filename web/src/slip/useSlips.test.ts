import type { GateSentence, Link, Slips } from '@dime-gate/contract/slip'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { band } from '@dime-gate/core/testing/a-gate'
import { createPinia, setActivePinia } from 'pinia'
import { useNotices } from '../shared/notices'
import { aServer, Refusal } from '../testing/a-server'
import { useSlips } from './useSlips'

const ALL = { label: null, records: null }
const link = (record: number, endsOn: string): Link => ({ id: record, token: `token-${record}`, record, gateVersion: 1, madeAt: '2026-03-02', endsOn })

/** A server with one run of two records, that keeps sentence and links as the real one does. */
function serverWith() {
  const gate = plainScale('Award', givenNumber('Mark', '%'), [{ at: '50', owner: 'above' }], [band('Fail'), band('Pass')])
  const state = { said: { version: 3, sentence: '{Label}.' } as GateSentence, links: [link(1, '2100-01-01')] }
  const slips: Slips = {
    head: { gate, feeding: [], inputs: { Mark: { column: 2 } }, asOf: '2026-03-02', tableName: 'Course', sentence: state.said.sentence, columns: [{ id: 2, name: 'Mark', unit: '%', type: 'number', isIdentity: false, isComputed: false }] },
    total: 2, slips: ['40', '60'].map((mark, at) => ({ record: at + 1, cells: [[mark, null]], status: 'labelled' as const, outcomes: [at === 0 ? 'Fail' : 'Pass'], byHand: null })),
  }
  aServer(({ method, path, body: sent }) => {
    const body = sent as { seen: number; sentence: string; records: number[] | null; endsOn: string }
    if (path.endsWith('/slips')) return slips
    if (path.endsWith('/sentence') && method === 'PUT') {
      if (body.seen !== state.said.version) return new Refusal(409, 'stale', 'it was changed elsewhere')
      state.said = { version: state.said.version + 1, sentence: body.sentence }
    }
    if (path.endsWith('/sentence')) return state.said
    if (path.endsWith('/withdrawal')) state.links = state.links.filter(({ record }) => body.records !== null && !body.records.includes(record!))
    else if (path.endsWith('/links') && method === 'POST') {
      if (body.endsOn < '2026-03-02') return new Refusal(422, 'malformed', 'A link cannot end before today.')
      state.links = [1, 2].map((record) => link(record, body.endsOn))
    }
    return state.links
  })
  setActivePinia(createPinia())
  return state
}

test('a sentence stands on the slip while it is written, and is kept once', async () => {
  const state = serverWith()
  const { load, slips, sentence, wordsOf, keepSentence } = useSlips(3)
  await load(ALL, 7)
  expect(wordsOf(slips.value[1]!).sentence).toBe('Pass.')
  sentence.value = '{Label}, with {Mark} %.'
  expect(wordsOf(slips.value[1]!).sentence).toBe('Pass, with 60 %.')
  await keepSentence(7)
  await keepSentence(7)
  expect(state.said).toEqual({ version: 4, sentence: '{Label}, with {Mark} %.' })
})

test('what somebody else wrote meanwhile is told, what was written here stays, and can be kept after all', async () => {
  const state = serverWith()
  const { load, sentence, elsewhere, keepSentence } = useSlips(3)
  await load(ALL, 7)
  state.said = { version: 9, sentence: 'Theirs.' }
  sentence.value = 'Mine.'
  await keepSentence(7)
  expect([sentence.value, elsewhere.value, state.said.sentence]).toEqual(['Mine.', 'Theirs.', 'Theirs.'])
  await keepSentence(7)
  expect([elsewhere.value, state.said]).toEqual([null, { version: 10, sentence: 'Mine.' }])
})

test('links are made, refused with a reason, and withdrawn; each is found by its record', async () => {
  serverWith()
  const { load, linkOf, makeLinks, withdraw } = useSlips(3)
  await load(ALL, 7)
  expect([...linkOf.value.keys()]).toEqual([1])
  await makeLinks(ALL, '2020-01-01', 'never said')
  expect([useNotices().current, linkOf.value.size]).toEqual([{ text: 'A link cannot end before today.', problem: true }, 1])
  await makeLinks(ALL, '2100-05-01', '2 links.')
  expect([useNotices().current?.text, linkOf.value.get(2)?.endsOn]).toEqual(['2 links.', '2100-05-01'])
  await withdraw([1])
  expect([...linkOf.value.keys()]).toEqual([2])
  await withdraw(null)
  expect(linkOf.value.size).toBe(0)
})
