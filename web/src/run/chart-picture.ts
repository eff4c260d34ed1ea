/** The chart of a run as a picture by itself: SVG (W3C, Scalable Vector Graphics 2), and from that PNG. */
import { count, share } from '../shared/format'

export interface PicturePart {
  name: string
  /** `#rrggbb`. */
  colour: string
  records: number
}

export interface PictureAsked {
  title: string
  /** Under it: of what, and as of when. */
  about: string
  parts: readonly PicturePart[]
  records: number
}

const [WIDTH, ROW, TOP, LEFT, RIGHT, BAR] = [900, 34, 84, 220, 150, 20]
const [INK, SECOND, PAPER, LINE] = ['#1c2a2b', '#56625f', '#fcfaf4', '#dcd5c3']
const LONGEST_NAME = 30

/** Paper and ink whatever the page's theme is: pictures go into reports. The bars are to one scale, from nothing. */
export function chartSvg({ title, about, parts, records }: PictureAsked): string {
  const height = TOP + parts.length * ROW + 20
  const most = Math.max(1, ...parts.map((part) => part.records))
  const room = WIDTH - LEFT - RIGHT
  const rows = parts.map(({ name, colour, records: own }, at) => {
    const y = TOP + at * ROW
    const width = Number(((own / most) * room).toFixed(2))
    const short = name.length > LONGEST_NAME ? `${name.slice(0, LONGEST_NAME - 1)}…` : name
    return `<g><title>${escaped(`${name}: ${count(own)}, ${share(own, records)}`)}</title>`
      + `<text x="${LEFT - 12}" y="${y + 15}" text-anchor="end" font-weight="600">${escaped(short)}</text>`
      + `<rect x="${LEFT}" y="${y}" width="${width}" height="${BAR}" fill="${escaped(colour)}"/>`
      + `<text x="${LEFT + width + 10}" y="${y + 15}">${escaped(count(own))} <tspan fill="${SECOND}">${escaped(share(own, records))}</tspan></text></g>`
  })
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${height}" viewBox="0 0 ${WIDTH} ${height}" font-family="sans-serif" font-size="14" fill="${INK}" role="img" aria-label="${escaped(title)}">`,
    `<rect width="${WIDTH}" height="${height}" fill="${PAPER}"/>`,
    `<text x="24" y="34" font-size="20" font-weight="700">${escaped(title)}</text>`,
    `<text x="24" y="58" fill="${SECOND}">${escaped(about)}</text>`,
    `<line x1="${LEFT}" y1="${TOP - 8}" x2="${LEFT}" y2="${height - 16}" stroke="${LINE}"/>`,
    ...rows, '</svg>',
  ].join('\n')
}

/** What XML 1.0 does not allow is left out. */
function escaped(text: string): string {
  return text.replaceAll(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ud800-\udfff\ufffe\uffff]/gu, '').replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;')
}

/** Twice as fine as it is wide, for print. @throws Error where the browser cannot draw it */
export async function pngOf(svg: string): Promise<Blob> {
  const image = new Image()
  // Pages take pictures from their own server, or as they are written out: see the server's security headers.
  const drawn = new Promise((resolve, reject) => {
    image.onload = resolve
    image.onerror = () => reject(new Error('The picture could not be drawn.'))
  })
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`
  await drawn
  const canvas = document.createElement('canvas')
  canvas.width = 2 * image.width
  canvas.height = 2 * image.height
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height)
  return new Promise((resolve, reject) => canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('The picture could not be drawn.'))), 'image/png'))
}

/** Hands it to the reader as a file. */
export function takeFile(blob: Blob, name: string): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(blob)
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}
