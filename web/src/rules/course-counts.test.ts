import type { Counts, FurtherCounts } from '@dime-gate/core/result/counts'
import { createSSRApp, defineComponent, h, shallowRef } from 'vue'
import { renderToString } from 'vue/server-renderer'
import { provideCourseCounts, useRuleCounts } from './course-counts'

const COUNTS: Counts = { records: 100, caught: [60, 0], otherwise: 40, unplaced: 0, held: 0, contested: 0, inputs: [], edges: [] }

test('each row tells its own counts, as far as they are known by then', async () => {
  const counts = shallowRef<Counts | null>(null)
  const further = shallowRef<FurtherCounts | null>(null)
  const Row = defineComponent({
    props: { at: { type: Number, required: true } },
    setup(props) {
      const { caught, alone, records } = useRuleCounts(() => props.at)
      return () => h('li', `${caught.value ?? '…'} ${alone.value ?? '…'} of ${records.value}`)
    },
  })
  const List = defineComponent({
    setup() {
      provideCourseCounts({ counts: () => counts.value, further: () => further.value })
      return () => [0, 1, 2].map((at) => h(Row, { at }))
    },
  })
  const rows = async () => [...(await renderToString(createSSRApp(List))).matchAll(/<li>(.*?)<\/li>/g)].map(([, words]) => words)
  expect(await rows()).toEqual(['… … of 0', '… … of 0', '… … of 0'])
  counts.value = COUNTS
  // A rule that was just added is not counted yet.
  expect(await rows()).toEqual(['60 … of 100', '0 … of 100', '… … of 100'])
  further.value = { alone: [60, 9] } as unknown as FurtherCounts
  expect(await rows()).toEqual(['60 60 of 100', '0 9 of 100', '… … of 100'])
})
