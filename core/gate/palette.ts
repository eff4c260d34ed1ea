/**
 * Colours for bands. Each palette runs through fixed stops, blended in OKLab so that steps look even,
 * and keeps neighbours apart in lightness for eyes that do not tell the hues.
 */
const STOPS = {
  'good to bad': ['#7fa99a', '#d3c48a', '#d08a45', '#8e3424'],
  ordered: ['#ded6bd', '#a9b59a', '#5f8f84', '#1f4f57'],
  unordered: ['#7fa99a', '#8e3424', '#d3c48a', '#3f5d86', '#d08a45', '#5d4a66', '#a7b8c9', '#5a6b2f', '#c98fa0', '#2f3e3c'],
} as const

export type PaletteName = keyof typeof STOPS
export const PALETTE_NAMES = Object.keys(STOPS) as PaletteName[]

/** `count` colours as `#rrggbb`, in band order. */
export function paletteColours(name: PaletteName, count: number): string[] {
  const stops: readonly string[] = STOPS[name]
  if (name === 'unordered') return Array.from({ length: count }, (_, index) => stops[index % stops.length]!)
  if (count === stops.length) return [...stops]
  return Array.from({ length: count }, (_, index) => blend(stops, count === 1 ? 0 : index / (count - 1)))
}

export function isFromPalette(name: PaletteName, colours: readonly string[]): boolean {
  return paletteColours(name, colours.length).every((colour, index) => colour === colours[index])
}

function blend(stops: readonly string[], share: number): string {
  const place = share * (stops.length - 1)
  const before = Math.min(Math.floor(place), stops.length - 2)
  const [from, to] = [toOklab(stops[before]!), toOklab(stops[before + 1]!)]
  return fromOklab(from.map((value, axis) => value + (to[axis]! - value) * (place - before)) as Triple)
}

type Triple = [number, number, number]

/** sRGB to OKLab: B. Ottosson, "A perceptual color space for image processing" (2020). */
export function toOklab(colour: string): Triple {
  const [r, g, b] = [1, 3, 5].map((at) => toLinear(parseInt(colour.slice(at, at + 2), 16) / 255)) as Triple
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b)
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b)
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b)
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ]
}

function fromOklab([lightness, a, b]: Triple): string {
  const l = (lightness + 0.3963377774 * a + 0.2158037573 * b) ** 3
  const m = (lightness - 0.1055613458 * a - 0.0638541728 * b) ** 3
  const s = (lightness - 0.0894841775 * a - 1.291485548 * b) ** 3
  return `#${[
    4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s,
    -1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s,
    -0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s,
  ].map(toByte).join('')}`
}

function toLinear(value: number): number {
  return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4
}

function toByte(linear: number): string {
  const value = linear <= 0.0031308 ? 12.92 * linear : 1.055 * linear ** (1 / 2.4) - 0.055
  return Math.round(Math.min(1, Math.max(0, value)) * 255).toString(16).padStart(2, '0')
}
