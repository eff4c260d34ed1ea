/** What the fields of conditions need to know of the bench around them. */
import type { Node } from '@dime-gate/core/expression/tree'
import type { SharedCondition } from '@dime-gate/core/gate/document'
import type { CommonValues } from '@dime-gate/core/table/common-values'
import type { ValueKind } from '@dime-gate/core/value/value'
import { computed, type ComputedRef, inject, type InjectionKey, provide, type Ref } from 'vue'
import { kindOfSubject, typesIn } from '@dime-gate/core/rule/read-condition'
import type { Spread } from '../records/session'
import { useHeld } from '../shared/useHeld'
import type { OnTable, Subject } from './subjects'

export interface ConditionBench {
  on: ComputedRef<OnTable>
  subjects: ComputedRef<Subject[]>
  kindOf: ComputedRef<(subject: Node) => ValueKind | null>
  unitOf(subject: Node): string
  /** Whether it is the name of a named condition. */
  isNamed(subject: Node): boolean
  /** Where a named condition is looked at by itself; null where conditions have no names of their own. */
  openNamed: ((name: string) => void) | null
  /** The values that an input has, and how many records have each. */
  choices(input: string): Promise<CommonValues | null>
  spread(input: string): Promise<Spread | null>
  /** Whether there is a list that shows what a part of a condition holds for. */
  showsRecords: boolean
  /** Changes whenever there may be values of what had none. */
  tick: ComputedRef<number>
  /** Moves whenever values have changed. */
  renewed: ComputedRef<number>
  /** Inputs that are pointed out, each by the line it is drawn under: here and at its column. */
  lines: Readonly<Ref<ReadonlyMap<string, LineStyle>>>
}

/** Lines that the eye tells apart without colour. */
export const LINE_STYLES = ['solid', 'double', 'dashed', 'dotted', 'wavy'] as const
export type LineStyle = (typeof LINE_STYLES)[number]

/** @param names of the inputs that are pointed out, in order; from the sixth on none is */
export function linesFor(names: readonly string[]): Map<string, LineStyle> {
  return new Map([...new Set(names)].slice(0, LINE_STYLES.length).map((name, at) => [name, LINE_STYLES[at]!]))
}

const NONE: SharedCondition[] = []
const KEY: InjectionKey<ConditionBench> = Symbol('condition bench')

export function provideConditionBench(bench: Omit<ConditionBench, 'kindOf' | 'unitOf' | 'isNamed'>): ConditionBench {
  // Most changes leave the inputs what they are: then no condition is read anew.
  const inputs = useHeld(() => bench.on.value.gate.inputs)
  const conditions = useHeld(() => bench.on.value.gate.conditions ?? NONE)
  const kindOf = computed(() => kindOfSubject(typesIn({ inputs: inputs.value, conditions: conditions.value })))
  const units = computed(() => new Map(inputs.value.map(({ name, unit }) => [name, unit])))
  const whole: ConditionBench = {
    ...bench,
    lines: useHeld(() => bench.lines.value),
    kindOf,
    unitOf: (subject) => (subject.kind === 'name' ? (units.value.get(subject.name) ?? '') : ''),
    isNamed: (subject) => subject.kind === 'name' && conditions.value.some(({ name }) => name === subject.name),
  }
  provide(KEY, whole)
  return whole
}

export function useConditionBench(): ConditionBench {
  return inject(KEY)!
}
