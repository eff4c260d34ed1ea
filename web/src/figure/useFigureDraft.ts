/** A figure as somebody writes it: its name, unit, sentence and expression, and what it would come to. */
import type { ChangeRequest } from '@dime-gate/contract/change'
import { type Column, plainColumn, type SetOfColumns, type Table, isComputed } from '@dime-gate/contract/table'
import { membersOfSet } from '@dime-gate/contract/table-figures'
import { parseExpression } from '@dime-gate/core/expression/parse'
import { freeNames } from '@dime-gate/core/expression/tree'
import { wholeSetName } from '@dime-gate/core/figure/figure'
import { type Part, type Recipe, recipeFeel, recipeOf, recipeUnit } from '@dime-gate/core/figure/recipe'
import { type UnitFound, unitOfFigure } from '@dime-gate/core/figure/units'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import type { Name } from './completions'
import type { FigureAsked, Previewed } from './preview'
import { guessedSets, proposals, sentenceOf, subjectsOf } from './sentence'
import { TYPE_WORDS } from '../shared/words'

/** Stand for a figure that the table does not have yet; no column can be called so. */
const NEW = -1
const NAMELESS = '\u0001'

export interface FigureOn {
  table: Ref<Table>
  /** Null for a new one. */
  figure: Column | null
  asOf: Ref<string | null>
  /** The record in focus. */
  record: Ref<number | null>
  preview(asked: FigureAsked): Promise<Previewed>
}

export function useFigureDraft({ table, figure, asOf, record, preview }: FigureOn) {
  const ownName = figure?.name ?? NAMELESS
  const name = ref(figure?.name ?? '')
  const unit = ref(figure?.unit ?? '')
  const feel = ref(figure?.feel ?? '')
  const shown = shallowRef<Previewed | null>(null)
  /** Whether the unit is the one that follows from the sentence. */
  let isUnitOwn = figure === null

  /** Those that could be told by the columns' names count as there. */
  const allSets = computed(() => [...table.value.sets, ...guessedSets(table.value.columns, table.value.sets)])
  const subjects = computed(() => subjectsOf(table.value.columns, allSets.value, figure?.id ?? null))
  const names = computed((): Name[] => [
    ...table.value.columns
      .filter(({ id }) => id !== figure?.id)
      .map((column) => ({ name: column.name, detail: isComputed(column) ? 'figure' : column.unit || TYPE_WORDS[column.type] })),
    ...allSets.value.flatMap((set) => [
      { name: set.name, detail: `set of ${membersOfSet(set, table.value.columns).length}` },
      { name: wholeSetName(set.name), detail: 'with its blanks' },
    ]),
  ])
  const recipe = computed(() =>
    recipeOf(
      feel.value,
      names.value.map((one) => one.name),
      allSets.value.map((one) => one.name),
    ),
  )
  const sentence = computed(() => recipe.value && sentenceOf(recipe.value, subjects.value))
  const offers = computed(() => proposals(subjects.value, marksOf))
  /** Sets that the expression names. */
  const used = computed(() => {
    const parsed = parseExpression(
      feel.value,
      names.value.map((one) => one.name),
    )
    const named = 'tree' in parsed ? freeNames(parsed.tree) : []
    return allSets.value.filter((set) => named.includes(set.name) || named.includes(wholeSetName(set.name)))
  })

  function marksOf(set: string): string | null {
    const own = allSets.value.find((one) => one.name === set)
    const marks = new Set(own ? membersOfSet(own, table.value.columns).map((member) => columnOf(member.id).fullMarks) : [])
    return marks.size === 1 ? [...marks][0]! : null
  }

  const columnOf = (id: number) => table.value.columns.find((column) => column.id === id)!

  /** Of a column of numbers, or of a set whose columns agree; full marks are a unit too. */
  function unitOf(of: string): string | null {
    const set = allSets.value.find((one) => one.name === of || wholeSetName(one.name) === of)
    const columns = set
      ? membersOfSet(set, table.value.columns).map(({ id }) => columnOf(id))
      : table.value.columns.filter((column) => column.name === of)
    if (columns.length === 0 || columns.some(({ type }) => !isNumeric(type))) return null
    const units = new Set(columns.map((column) => column.unit || (column.fullMarks === null ? '' : `of ${column.fullMarks}`)))
    return units.size === 1 ? [...units][0]! : null
  }

  function take(next: Recipe): void {
    feel.value = recipeFeel(next)
  }

  function begin(part: Part): void {
    take({ part, rounding: null })
    if (name.value === '') name.value = freeName(part)
  }

  function freeName(part: Part): string {
    const words = 'set' in part ? `${part.kind === 'full marks' ? 'Percent of' : 'Mean of'} ${part.set.toLowerCase()}` : WORDS[part.kind]
    const taken = new Set(names.value.map((one) => one.name))
    for (let number = 1; ; number++) {
      const candidate = number === 1 ? words : `${words} ${number}`
      if (!taken.has(candidate)) return candidate
    }
  }

  /** A set that was only guessed becomes one of the table's once it is used. */
  const newSets = computed((): SetOfColumns[] => used.value.filter((set) => !table.value.sets.includes(set)))
  /** What follows from the columns' units, and where these do not go together. */
  const units = computed((): UnitFound => {
    const parsed = parseExpression(
      feel.value,
      names.value.map((one) => one.name),
    )
    return 'tree' in parsed ? unitOfFigure(parsed.tree, feel.value, unitOf) : { unit: '', troubles: [] }
  })
  watch(units, (now) => {
    if (isUnitOwn) unit.value = (recipe.value && recipeUnit(recipe.value)) ?? now.unit
  })

  function setUnit(text: string): void {
    isUnitOwn = false
    unit.value = text
  }

  const isReady = computed(() => feel.value.trim() !== '' && shown.value !== null && !('trouble' in shown.value))
  const isKeepable = computed(() => isReady.value && name.value.trim() !== '')

  /** The table's columns with the figure in its place. */
  const columns = computed((): Column[] => {
    const own = plainColumn(figure?.id ?? NEW, ownName, { feel: feel.value })
    return figure ? table.value.columns.map((column) => (column.id === figure.id ? own : column)) : [...table.value.columns, own]
  })

  let asking = 0
  watch(
    [feel, allSets, asOf, record, () => table.value.version],
    async () => {
      const mine = ++asking
      if (feel.value.trim() === '' || asOf.value === null) {
        shown.value = null
        return
      }
      const part = recipe.value?.part
      const since = part?.kind === 'length since' ? part.date : null
      const found = await preview({
        columns: columns.value,
        sets: allSets.value,
        name: ownName,
        asOf: asOf.value,
        record: record.value,
        since,
      })
      if (mine === asking) shown.value = found
    },
    { immediate: true },
  )

  /** What has to be asked of the server, in this order. */
  const requests = (): ChangeRequest[] => {
    const what = { name: name.value.trim(), unit: unit.value.trim(), feel: feel.value.trim() }
    const own: ChangeRequest = figure ? { kind: 'change figure', column: figure.id, ...what } : { kind: 'add figure', ...what }
    return newSets.value.length > 0 ? [{ kind: 'column sets', sets: [...table.value.sets, ...newSets.value] }, own] : [own]
  }

  return { name, unit, feel, units, sets: used, names, recipe, sentence, offers, shown, isReady, isKeepable, take, begin, setUnit, requests }
}

const WORDS: Record<Exclude<Part['kind'], 'gather' | 'full marks'>, string> = {
  'weighted mean': 'Weighted mean',
  ratio: 'Ratio',
  product: 'Product',
  difference: 'Difference',
  growth: 'Growth',
  'days until': 'Days left',
  'length since': 'Length of service',
}
