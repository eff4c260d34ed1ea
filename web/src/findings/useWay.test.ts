import { effectScope, nextTick, shallowRef } from 'vue'
import type { ToldFinding, ToldFindings, ToldFix } from './told-findings'
import { useWay } from './useWay'

const told = (key: string) => ({ key, words: key, severity: 'warning', rules: [], where: '', example: '' }) as unknown as ToldFinding
const asWay = (words: string) => ({ words }) as ToldFix

function opened(...first: ToldFinding[]) {
  const findings = shallowRef<ToldFindings | null>({ told: first, more: 0 })
  const asked: { at: number; answer: (fix: ToldFix | null) => void }[] = []
  const { way, look } = effectScope().run(() => useWay(findings, (at) => new Promise<ToldFix | null>((answer) => asked.push({ at, answer }))))!
  const tell = async (...next: ToldFinding[]) => {
    findings.value = { told: next, more: 0 }
    await nextTick()
  }
  const answer = async (at: number, words: string | null) => {
    asked[at]!.answer(words === null ? null : asWay(words))
    await nextTick()
    await nextTick()
  }
  return { way, look, tell, asked, answer }
}

test('what comes behind from the table leaves the way open, also while it is looked for', async () => {
  const [gap, hole] = [told('gap'), told('hole')]
  const { way, look, tell, asked, answer } = opened(gap, hole)
  void look(1)
  await tell(gap, hole, told('of the table'))
  expect(way.value).toMatchObject({ finding: hole, fix: undefined })
  await answer(0, 'Rule 1 takes it too')
  await tell(gap, hole)
  expect(way.value).toMatchObject({ finding: hole, fix: { words: 'Rule 1 takes it too' } })
  expect(asked).toHaveLength(1)
})

test('of a gate that has changed, the way is looked for anew, where the finding stands now', async () => {
  const { way, look, tell, asked, answer } = opened(told('gap'), told('hole'))
  void look(1)
  await answer(0, 'of the old gate')
  await tell(told('hole'), told('gap'))
  expect(way.value).toMatchObject({ finding: { key: 'hole' }, fix: undefined })
  expect(asked.map(({ at }) => at)).toEqual([1, 0])
  await answer(1, 'of the new one')
  expect(way.value?.fix?.words).toBe('of the new one')
})

test('it closes with its finding, and a late answer does not open it again', async () => {
  const { way, look, tell, answer } = opened(told('gap'), told('hole'))
  void look(1)
  await tell(told('gap'))
  expect(way.value).toBeNull()
  await answer(0, 'late')
  expect(way.value).toBeNull()
})
