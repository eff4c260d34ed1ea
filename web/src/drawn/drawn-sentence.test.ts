import type { Drawn, Related } from '@dime-gate/contract/drawn'
import { plainColumn } from '@dime-gate/contract/table'
import type { Choice, Piece } from '../shared/pieces'
import { drawnName, drawnOffers, drawnSentence, drawnUnit, isChosen, keysBetween, type World } from './drawn-sentence'

const TREES = [
  plainColumn(1, 'Tree no', { type: 'text', isIdentity: true }),
  plainColumn(2, 'Ward', { type: 'text' }),
  plainColumn(3, 'Height', { unit: 'm' }),
  plainColumn(4, 'Planted', { type: 'date' }),
]
const REPORTS = [
  plainColumn(11, 'Report', { type: 'text', isIdentity: true }),
  plainColumn(12, 'Tree no', { type: 'text' }),
  plainColumn(13, 'Severity', { unit: 'points' }),
  plainColumn(14, 'Received', { type: 'date' }),
]
const SPECIES = [plainColumn(21, 'Kind', { type: 'text' })]
const table = { id: 1, name: 'Trees', columns: TREES }
const others = new Map([
  [2, { id: 2, name: 'Reports', columns: REPORTS }],
  [3, { id: 3, name: 'Species', columns: SPECIES }],
])
const world = (more: Partial<World> = {}): World => ({
  table,
  own: null,
  tables: [
    { id: 3, name: 'Species' },
    { id: 1, name: 'Trees' },
    { id: 2, name: 'Reports' },
  ],
  gates: [
    { id: 7, name: 'Award', latestVersion: 0 },
    { id: 8, name: 'Size', latestVersion: 2 },
  ],
  outcomes: new Map([
    [7, ['Label', 'Points']],
    [8, ['Label']],
  ]),
  other: (id) => (id === 1 ? table : (others.get(id) ?? null)),
  ...more,
})
const related: Related = {
  kind: 'related',
  table: 2,
  keys: [{ own: 1, theirs: 12, part: 'whole' }],
  take: 'count',
  of: null,
  where: null,
  none: 'nothing',
}
const said = (pieces: Piece<Drawn>[]) =>
  pieces.map((piece) => (typeof piece === 'string' ? piece : 'words' in piece ? `[${piece.words}]` : piece.number)).join('')
const choiceOf = (drawn: Drawn, label: string) =>
  drawnSentence(drawn, world()).find((piece): piece is Choice<Drawn> => typeof piece === 'object' && piece.label === label)!
const taken = (drawn: Drawn, label: string, words: string) => {
  const piece = choiceOf(drawn, label)
  return piece.take(piece.options.find((option) => option.words === words)!.value)
}

test.each<[Drawn, string]>([
  [related, '[how many] [Reports] whose [Tree no] is this record’s [Tree no], [0 where there are none]'],
  [
    { ...related, take: 'mean', of: 13, none: 'blank' },
    '[the mean of] [Severity] of the [Reports] whose [Tree no] is this record’s [Tree no], [blank where there are none]',
  ],
  [
    { ...related, take: 'share', where: 'Severity > 1' },
    '[what percent] of the [Reports] whose [Tree no] is this record’s [Tree no], [0 where there are none]',
  ],
  [{ ...related, take: 'value', of: 11 }, '[the only] [Report] of the one among [Reports] whose [Tree no] is this record’s [Tree no]'],
  [{ kind: 'rank', of: 3, within: 2, first: 'highest' }, 'the place by [Height], [the highest first], among [those of the same Ward]'],
  [{ kind: 'part', of: 3, within: null }, 'the percent that it is of the total of [Height] of [all records]'],
  [{ kind: 'label', gate: 7, from: 'draft', outcome: 1 }, 'what [Award] gives as its [Points], by its [draft]'],
  [{ kind: 'label', gate: 8, from: 'version', outcome: 0 }, 'what [Size] gives, by its [latest version]'],
])('%j reads as a sentence', (drawn, words) => {
  expect(said(drawnSentence(drawn, world()))).toBe(words)
})

test('another choice keeps what still fits, and finds what fits where it does not', () => {
  const mean = taken(related, 'what of them', 'the mean of') as Related
  expect([mean.take, mean.of]).toEqual(['mean', 13])
  expect(taken({ ...related, take: 'max', of: 14 }, 'what of them', 'the total of')).toMatchObject({ take: 'sum', of: 13 })
  expect(taken({ ...related, take: 'max', of: 13 }, 'what of them', 'the total of')).toMatchObject({ take: 'sum', of: 13 })
  expect(taken(mean, 'what of them', 'how many')).toMatchObject({ take: 'count', of: null })
  // Of another table nothing of the first one's columns is meant.
  expect(taken({ ...mean, where: 'Severity > 1' }, 'table', 'Species')).toMatchObject({
    table: 3,
    take: 'count',
    of: null,
    where: null,
    keys: [{ own: 1, theirs: 21, part: 'whole' }],
  })
  expect(choiceOf({ ...related, table: 3, keys: [] }, 'what of them').options.map(({ words }) => words)).toEqual([
    'how many',
    'what percent',
    'the only',
  ])
})

test('a gate without a version gives its draft’s label alone', () => {
  expect(choiceOf({ kind: 'label', gate: 7, from: 'draft', outcome: 0 }, 'as it stands').options.map(({ words }) => words)).toEqual([
    'draft',
  ])
  expect(taken({ kind: 'label', gate: 8, from: 'version', outcome: 0 }, 'gate', 'Award')).toEqual({
    kind: 'label',
    gate: 7,
    from: 'draft',
    outcome: 0,
  })
})

test('records meet by columns alike in name before others, and never by different kinds', () => {
  expect(keysBetween(TREES, REPORTS)).toEqual([{ own: 1, theirs: 12, part: 'whole' }])
  expect(keysBetween([TREES[2]!], SPECIES)).toEqual([])
})

test('what is offered is about the table that is nearest', () => {
  const offers = drawnOffers(world())
  expect(offers[0]).toMatchObject({ about: 'Reports', drawn: related })
  expect(offers.map(({ drawn }) => drawn.kind)).toEqual(['related', 'rank', 'part', 'label', 'own'])
  expect(drawnOffers(world({ tables: [], gates: [], table: { ...table, columns: [TREES[0]!] } })).map(({ drawn }) => drawn.kind)).toEqual([
    'own',
  ])
})

test('names and units follow from what is drawn', () => {
  expect([
    drawnName(related, world()),
    drawnName({ kind: 'rank', of: 3, within: null, first: 'highest' }, world()),
    drawnName({ kind: 'label', gate: 8, from: 'version', outcome: 0 }, world()),
  ]).toEqual(['Reports', 'Place by Height', 'Size'])
  expect([
    drawnUnit({ ...related, take: 'max', of: 13 }, world()),
    drawnUnit({ ...related, take: 'share', where: 'x' }, world()),
    drawnUnit(related, world()),
  ]).toEqual(['points', '%', ''])
})

test('a sentence that lacks something cannot be kept', () => {
  expect(
    [
      related,
      { ...related, keys: [] },
      { ...related, take: 'mean' as const },
      { ...related, take: 'share' as const },
      { ...related, take: 'share' as const, where: 'Severity > 1' },
    ].map(isChosen),
  ).toEqual([true, false, false, false, true])
})
