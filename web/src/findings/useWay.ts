/** The finding that a way was looked for, and the way. It stays open for as long as the finding is told. */
import { type Ref, shallowRef, watch } from 'vue'
import type { ToldFinding, ToldFindings, ToldFix } from './told-findings'

/** @property fix undefined while it is looked for, null where no single step does */
interface Way {
  finding: ToldFinding
  fix: ToldFix | null | undefined
}

/** @param fix looks for what mends the finding at a place among all */
export function useWay(findings: Ref<ToldFindings | null>, fix: (at: number) => Promise<ToldFix | null>) {
  const way = shallowRef<Way | null>(null)

  async function look(at: number): Promise<void> {
    const finding = findings.value?.told[at]
    if (!finding) return
    const own: Way = { finding, fix: undefined }
    way.value = own
    const found = await fix(at)
    if (way.value === own) way.value = { finding, fix: found }
  }

  watch(findings, (now) => {
    const open = way.value
    if (!open) return
    // What the table gives away comes behind what the gate says, and takes nothing back of it.
    if (now?.told.includes(open.finding)) return
    // Of a gate that has changed since, the old way would take back what was changed.
    const again = now?.told.findIndex(({ key }) => key === open.finding.key) ?? -1
    way.value = null
    if (again >= 0) void look(again)
  })

  return { way, look }
}
