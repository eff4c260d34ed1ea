/** A column that is drawn from elsewhere, as a sentence with choices in it. */
import { type Calculation, type Drawn, isWhole, type Related, type Take, TAKES, TAKES_OF_COLUMN } from '@dime-gate/contract/drawn'
import type { GateSummary } from '@dime-gate/contract/gate'
import type { Column, Table, TableSummary } from '@dime-gate/contract/table'
import { isNumeric, isOnLine, kindOfColumn } from '@dime-gate/core/value/read-cell'
import { choice, type Piece } from '../shared/pieces'

/** What a sentence can be about. */
export interface World {
  table: Pick<Table, 'id' | 'name' | 'columns'>
  /** The column itself, which is not drawn from itself; null for a new one. */
  own: number | null
  tables: readonly Pick<TableSummary, 'id' | 'name'>[]
  /** Those that are bound to the table. */
  gates: readonly Pick<GateSummary, 'id' | 'name' | 'latestVersion'>[]
  /** What a gate gives, by its id. */
  outcomes: ReadonlyMap<number, readonly string[]>
  /** Another table with its columns, where it is here already. */
  other(id: number): Pick<Table, 'id' | 'name' | 'columns'> | null
}

const TAKE_WORDS: Record<Take, string> = {
  count: 'how many',
  sum: 'the total of',
  mean: 'the mean of',
  median: 'the middle one of',
  min: 'the lowest or earliest',
  max: 'the highest or latest',
  share: 'what percent',
  value: 'the only',
}

export function drawnSentence(drawn: Drawn, world: World): Piece<Drawn>[] {
  const columns = world.table.columns.filter(({ id }) => id !== world.own)
  switch (drawn.kind) {
    case 'related':
      return relatedSentence(drawn, world, columns)
    case 'rank':
      return [
        'the place by ',
        columnChoice(
          'values',
          drawn.of,
          columns.filter(({ type }) => isOnLine(type)),
          (of) => ({ ...drawn, of }),
        ),
        ', ',
        choice(
          'first',
          drawn.first,
          ['highest', 'lowest'] as const,
          (first) => `the ${first} first`,
          (first): Drawn => ({ ...drawn, first }),
        ),
        ', among ',
        withinChoice(drawn.within, columns, (within) => ({ ...drawn, within })),
      ]
    case 'part':
      return [
        'the percent that it is of the total of ',
        columnChoice(
          'values',
          drawn.of,
          columns.filter(({ type }) => isNumeric(type)),
          (of) => ({ ...drawn, of }),
        ),
        ' of ',
        withinChoice(drawn.within, columns, (within) => ({ ...drawn, within })),
      ]
    case 'label': {
      const gate = world.gates.find(({ id }) => id === drawn.gate)
      const outcomes = world.outcomes.get(drawn.gate) ?? []
      return [
        'what ',
        idChoice('gate', drawn.gate, world.gates, (id): Drawn => ({
          ...drawn,
          gate: id,
          outcome: 0,
          from: (world.gates.find((one) => one.id === id)?.latestVersion ?? 0) > 0 ? drawn.from : 'draft',
        })),
        ' gives',
        ...(outcomes.length > 1
          ? [
              ' as its ',
              choice(
                'outcome',
                String(drawn.outcome),
                outcomes.map((_, at) => String(at)),
                (at) => outcomes[Number(at)] ?? at,
                (at): Drawn => ({ ...drawn, outcome: Number(at) }),
              ),
            ]
          : []),
        ', by its ',
        choice(
          'as it stands',
          drawn.from,
          (gate?.latestVersion ?? 0) > 0 ? (['version', 'draft'] as const) : (['draft'] as const),
          (from) => (from === 'version' ? 'latest version' : 'draft'),
          (from): Drawn => ({ ...drawn, from }),
        ),
      ]
    }
    case 'own':
      return []
  }
}

function relatedSentence(drawn: Related, world: World, columns: readonly Column[]): Piece<Drawn>[] {
  const other = world.other(drawn.table)
  const taken = calculationPieces(drawn, world, (calculation): Drawn => ({
    ...drawn,
    ...calculation,
    keys: calculation.table === drawn.table ? drawn.keys : keysBetween(columns, world.other(calculation.table)?.columns ?? []),
  }))
  const keys = drawn.keys.flatMap((key, at): Piece<Drawn>[] => {
    const take = (more: Partial<typeof key>): Drawn => ({
      ...drawn,
      keys: drawn.keys.map((one, place) => (place === at ? { ...one, ...more } : one)),
    })
    return [
      at === 0 ? ' whose ' : ' and whose ',
      columnChoice('key there', key.theirs, other?.columns ?? [], (theirs) => take({ theirs })),
      ' is this record’s ',
      columnChoice('key here', key.own, columns, (own) => take({ own })),
    ]
  })
  const none = choice(
    'where there are none',
    drawn.none,
    ['nothing', 'blank'] as const,
    (way) => (way === 'nothing' ? '0 where there are none' : 'blank where there are none'),
    (way): Drawn => ({ ...drawn, none: way }),
  )
  return [...taken, ...keys, ...(drawn.take === 'value' ? [] : [', ', none])]
}

/** What is calculated, and of which table: the beginning of a sentence. */
export function calculationPieces<Made>(
  calculation: Calculation,
  world: Pick<World, 'tables' | 'other'>,
  made: (calculation: Calculation) => Made,
): Piece<Made>[] {
  const { take, of, table } = calculation
  const columns = world.other(table)?.columns ?? []
  const fitting = columns.filter((column) => fits(column, take))
  const takes = TAKES.filter((one) => !TAKES_OF_COLUMN.includes(one) || columns.some((column) => fits(column, one)))
  const next = (to: Take): Calculation => {
    const first = columns.find((column) => fits(column, to))
    const isKept = of !== null && columns.some((column) => column.id === of && fits(column, to))
    return { ...calculation, take: to, of: TAKES_OF_COLUMN.includes(to) ? (isKept ? of : (first?.id ?? null)) : null }
  }
  const takeChoice = choice(
    'what of them',
    take,
    takes,
    (one) => TAKE_WORDS[one],
    (one) => made(next(one)),
  )
  const tableChoice = idChoice('table', table, world.tables, (id) =>
    made({ ...calculation, table: id, take: 'count', of: null, where: null }),
  )
  if (of === null && !TAKES_OF_COLUMN.includes(take)) return [takeChoice, take === 'share' ? ' of the ' : ' ', tableChoice]
  return [
    takeChoice,
    ' ',
    columnChoice('column', of ?? 0, fitting, (id) => made({ ...calculation, of: id })),
    take === 'value' ? ' of the one among ' : ' of the ',
    tableChoice,
  ]
}

function fits({ type }: Pick<Column, 'type'>, take: Take): boolean {
  if (take === 'sum' || take === 'mean' || take === 'median') return isNumeric(type)
  return take === 'value' || isOnLine(type)
}

function idChoice<Made>(
  label: string,
  value: number,
  all: readonly { id: number; name: string }[],
  take: (id: number) => Made,
): Piece<Made> {
  const names = new Map(all.map(({ id, name }) => [String(id), name]))
  return choice(
    label,
    String(value),
    [...names.keys()],
    (id) => names.get(id) ?? '…',
    (id) => take(Number(id)),
  )
}

function columnChoice<Made>(
  label: string,
  value: number,
  columns: readonly Pick<Column, 'id' | 'name'>[],
  take: (id: number) => Made,
): Piece<Made> {
  return idChoice(label, value, columns, take)
}

function withinChoice(value: number | null, columns: readonly Column[], take: (within: number | null) => Drawn): Piece<Drawn> {
  const names = new Map(columns.map(({ id, name }) => [String(id), name]))
  return choice(
    'among',
    value === null ? '' : String(value),
    ['', ...names.keys()],
    (id) => (id === '' ? 'all records' : `those of the same ${names.get(id) ?? '…'}`),
    (id) => take(id === '' ? null : Number(id)),
  )
}

/** Columns that look as if they were the same: alike in name first, then in kind; identities before others. */
export function keysBetween(own: readonly Column[], theirs: readonly Column[]): Related['keys'] {
  const pairs = own.flatMap((mine) =>
    theirs
      .filter((other) => kindOfColumn(mine.type) === kindOfColumn(other.type))
      .map((other) => ({ mine, other, likeness: likeness(mine, other) })),
  )
  const best = pairs.toSorted((a, b) => b.likeness - a.likeness)[0]
  return best ? [{ own: best.mine.id, theirs: best.other.id, part: 'whole' }] : []
}

function likeness(mine: Column, other: Column): number {
  const [a, b] = [mine.name.toLowerCase(), other.name.toLowerCase()]
  const names = a === b ? 4 : a.startsWith(b) || b.startsWith(a) ? 3 : 0
  return names + (mine.isIdentity ? 2 : 0) + (mine.type === 'text' ? 1 : 0)
}

/** Whether all of it is chosen. */
export function isChosen(drawn: Drawn): boolean {
  switch (drawn.kind) {
    case 'related':
      return drawn.keys.length > 0 && isWhole(drawn) && (drawn.take !== 'share' || drawn.where !== null)
    case 'own':
      return drawn.calculations.every(isWhole)
    default:
      return true
  }
}

/** What can be drawn, with what it would be about. */
export function drawnOffers(world: World): { words: string; about: string; drawn: Drawn }[] {
  const columns = world.table.columns.filter(({ id }) => id !== world.own)
  const others = world.tables.filter(({ id }) => id !== world.table.id).toSorted((a, b) => nearness(b.id) - nearness(a.id))
  function nearness(id: number): number {
    const theirs = world.other(id)?.columns ?? []
    return Math.max(
      0,
      ...columns.flatMap((mine) =>
        theirs.map((other) => (kindOfColumn(mine.type) === kindOfColumn(other.type) ? likeness(mine, other) : 0)),
      ),
    )
  }
  const [number] = columns.filter(({ type }) => isNumeric(type))
  const [gate] = world.gates
  return [
    ...others.slice(0, 1).map(({ id, name }) => ({
      words: 'count or figure of related records',
      about: name,
      drawn: {
        kind: 'related',
        table: id,
        keys: keysBetween(columns, world.other(id)?.columns ?? []),
        take: 'count',
        of: null,
        where: null,
        none: 'nothing',
      } as Drawn,
    })),
    ...(number
      ? [
          {
            words: 'place among all, or in a group',
            about: number.name,
            drawn: { kind: 'rank', of: number.id, within: null, first: 'highest' } as Drawn,
          },
          { words: 'share of the total', about: number.name, drawn: { kind: 'part', of: number.id, within: null } as Drawn },
        ]
      : []),
    ...(gate
      ? [
          {
            words: 'a gate’s label',
            about: gate.name,
            drawn: { kind: 'label', gate: gate.id, from: gate.latestVersion > 0 ? 'version' : 'draft', outcome: 0 } as Drawn,
          },
        ]
      : []),
    { words: 'a calculation of each row’s own', about: 'indicators', drawn: { kind: 'own', calculations: [] } as Drawn },
  ]
}

/** A name that says what it holds. */
export function drawnName(drawn: Drawn, world: World): string {
  const column = (id: number) => world.table.columns.find((one) => one.id === id)?.name ?? ''
  switch (drawn.kind) {
    case 'related':
      return world.tables.find(({ id }) => id === drawn.table)?.name ?? ''
    case 'rank':
      return `Place by ${column(drawn.of)}`
    case 'part':
      return `Share of ${column(drawn.of)}`
    case 'label':
      return world.gates.find(({ id }) => id === drawn.gate)?.name ?? ''
    case 'own':
      return 'Value'
  }
}

/** The unit that follows from what is drawn. */
export function drawnUnit(drawn: Drawn, world: World): string {
  if (drawn.kind === 'part') return '%'
  if (drawn.kind !== 'related') return ''
  if (drawn.take === 'share') return '%'
  return world.other(drawn.table)?.columns.find(({ id }) => id === drawn.of)?.unit ?? ''
}
