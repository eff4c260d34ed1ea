/** Findings that follow the gate: what is known before any data, and behind it what the table gives away. */
import { type Remote, wrap } from 'comlink'
import { computed, onScopeDispose, type Ref, shallowRef, watch } from 'vue'
import type { FindingsWorker } from './findings-worker'
import type { Analysed, ToldFinding, ToldFindings, ToldFix } from './told-findings'

/** What its worker does, asked from the page. */
type GateAnalysis = { [Ask in keyof FindingsWorker]: (...asked: Parameters<FindingsWorker[Ask]>) => Promise<ReturnType<FindingsWorker[Ask]>> }

/** In a worker of the page's own, which begins with the first question, so that it takes nothing from what comes before, and ends with the page. */
export function findingsWorker(): GateAnalysis {
  let begun: { worker: Worker; asked: Remote<FindingsWorker> } | undefined
  onScopeDispose(() => begun?.worker.terminate())
  const analysis = (): Remote<FindingsWorker> => {
    if (begun) return begun.asked
    const worker = new Worker(new URL('./findings-worker.ts', import.meta.url), { type: 'module' })
    begun = { worker, asked: wrap<FindingsWorker>(worker) }
    return begun.asked
  }
  return {
    findings: (...asked) => analysis().findings(...asked),
    fix: (...asked) => analysis().fix(...asked),
    inForm: (...asked) => analysis().inForm(...asked),
    recordFor: (...asked) => analysis().recordFor(...asked),
  }
}

/** Milliseconds that findings may take, gate after gate, without a rest. */
const AT_EASE = 60

/**
 * While one gate is looked at, later ones replace each other.
 * @param asked null as long as there is nothing to look at
 * @param ofTable asks what the table gives away; asked again whenever `tick` changes
 */
export function useFindings(
  analysis: Pick<GateAnalysis, 'findings' | 'fix'>,
  asked: Ref<Analysed | null>,
  ofTable: () => Promise<ToldFinding[]>,
  tick: Ref<unknown>,
) {
  const own = shallowRef<{ asked: Analysed; found: ToldFindings | null } | null>(null)
  const table = shallowRef<ToldFinding[]>([])
  let waiting: Analysed | null = null
  let isBusy = false

  async function follow(): Promise<void> {
    if (isBusy) return
    isBusy = true
    try {
      while (waiting) {
        const next: Analysed = waiting
        waiting = null
        const start = performance.now()
        const found = await analysis.findings(next)
        // What was found of a gate that is not there any more is of no interest.
        if (!waiting) own.value = { asked: next, found }
        // While the gate goes on changing, what takes long leaves room for the counts.
        else await new Promise((resolve) => setTimeout(resolve, performance.now() - start - AT_EASE))
      }
    } finally {
      isBusy = false
    }
  }

  watch(
    asked,
    (now) => {
      waiting = now
      if (now) void follow()
    },
    { immediate: true },
  )
  watch(tick, async (now) => {
    if (!now) return
    const found = await ofTable()
    if (tick.value === now) table.value = found
  })

  const findings = computed((): ToldFindings | null => {
    const found = own.value?.found
    return found ? { told: [...found.told, ...table.value], more: found.more } : null
  })

  /** @param at place among the findings. @returns null where no single step is known to do, or the gate has changed since */
  async function fix(at: number): Promise<ToldFix | null> {
    const of = own.value
    if (!of?.found || at >= of.found.told.length || of.asked !== asked.value) return null
    return analysis.fix(at)
  }

  return { findings, fix }
}
