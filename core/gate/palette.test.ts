import { PALETTE_NAMES, paletteColours, toOklab } from './palette'

const lightness = (colour: string) => toOklab(colour)[0]

test.each(PALETTE_NAMES)('%s: any number of bands has colours of the stored form', (name) => {
  for (const count of [1, 2, 3, 5, 20]) {
    const colours = paletteColours(name, count)
    expect(colours).toHaveLength(count)
    for (const colour of colours) expect(colour).toMatch(/^#[0-9a-f]{6}$/)
  }
})

test('the ordered palette darkens at every step, so it reads without hue', () => {
  const steps = paletteColours('ordered', 7).map(lightness)
  steps.slice(1).forEach((step, i) => expect(step).toBeLessThan(steps[i]! - 0.03))
})

test('unordered neighbours differ in lightness too', () => {
  const steps = paletteColours('unordered', 10).map(lightness)
  steps.slice(1).forEach((step, i) => expect(Math.abs(step - steps[i]!)).toBeGreaterThan(0.05))
})
