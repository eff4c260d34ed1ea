import { chartSvg } from './chart-picture'

const PARTS = [{ name: 'Fell <now> & "here"', colour: '#8e3424', records: 50 }, { name: 'Leave', colour: '#7fa99a', records: 200 }, { name: 'held', colour: '#999999', records: 0 }]
const svg = (parts = PARTS) => chartSvg({ title: 'Felling, run 3', about: 'Street trees, as of 2 Mar 2026', parts, records: 250 })
const widths = (text: string) => [...text.matchAll(/<rect x="220"[^>]*width="([\d.]+)"/g)].map(([, width]) => Number(width))

test('the bars are to one scale, from nothing to the longest', () => {
  const [fell, leave, held] = widths(svg())
  expect(held).toBe(0)
  expect(leave).toBe(530)
  expect(fell! / leave!).toBeCloseTo(50 / 200, 3)
})

test('each has its name, count and share; names that mean something in XML are only names', () => {
  const text = svg()
  expect(text).toContain('Fell &lt;now&gt; &amp; &quot;here&quot;')
  expect(text).toMatch(/>200 <tspan[^>]*>80\.0 %</)
  expect(text).toContain('<title>held: 0, 0.0 %</title>')
  expect(text.match(/<g>/g)).toHaveLength(3)
  expect(chartSvg({ title: 'a\u0001\ud800b', about: '', parts: [], records: 0 })).toContain('>ab<')
  expect(chartSvg({ title: 'oak \u{1f333}', about: '', parts: [], records: 0 })).toContain('>oak \u{1f333}<')
})

test('a long name is cut, and whole in what is told of it; many bars make it taller', () => {
  const name = 'x'.repeat(60)
  const text = svg([{ name, colour: '#000000', records: 1 }])
  expect(text).toContain(`>${'x'.repeat(29)}…<`)
  expect(text).toContain(`<title>${name}: 1`)
  const heights = [PARTS, [...PARTS, ...PARTS]].map((parts) => Number(/height="(\d+)"/.exec(svg(parts))![1]))
  expect(heights[1]! - heights[0]!).toBe(3 * 34)
})
