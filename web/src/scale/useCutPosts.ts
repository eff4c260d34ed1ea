/** Posts of cuts in the hand and under the keys, on a line of any direction. */
import type { Scale } from '@dime-gate/core/gate/document'
import type { Decimal, DecimalText } from '@dime-gate/core/value/number'
import type { ScaleLinear } from 'd3-scale'
import { ref } from 'vue'
import { keyStep, nudged, valueAtPixel } from './line-geometry'

export interface PostLine {
  cuts: () => Scale['cuts']
  /** The values along the line, in pixels from its beginning. */
  along: () => ScaleLinear<number, number>
  /** Decimal places to which the values were measured. */
  places: () => number
  /** As round as what the hand can aim at, where that is told otherwise than by its digits. */
  round?: ((value: number, step: number) => number) | undefined
  /** So many steps of a key on, where they are not all of one size. */
  stepped?: ((value: number, steps: number, step: number) => number) | undefined
  /** Where the pointer is along the line, in pixels of the screen; and where the line begins there. */
  pointer: (event: MouseEvent) => number
  begins: () => number
  /** Steps by key; those that the line does not know are none. */
  steps: Readonly<Record<string, number>>
  /** Tells drags and runs of keys of one line from those of another. */
  name: string
}

export interface PostActs {
  /** @param step what belongs to one drag, or one run of keys */
  move: (cut: number, at: DecimalText, step: string) => void
  moved: () => void
  owner: (cut: number) => void
  remove: (cut: number) => void
  /** To type its value. */
  type: (cut: number) => void
}

export function useCutPosts(line: PostLine, acts: PostActs) {
  const dragged = ref<number | null>(null)
  /** Where the line would begin for the hand that drags, found once a drag: asking again would lay the page out at every move. */
  let from = 0
  /** Where the post stood before it was dragged. */
  let before: DecimalText = ''
  const atOf = (cut: number) => line.cuts()[cut]!.at

  /** @param begins where the line begins on the screen, or would for the hand */
  function valueUnder(event: MouseEvent, begins = line.begins()): DecimalText {
    const along = line.along()
    const [, end] = along.range() as [number, number]
    return valueAtPixel(along, Math.min(end, Math.max(0, line.pointer(event) - begins)), line.places(), line.round)
  }

  /** A post is seldom taken at its very middle; it moves as the hand does, from where it stands. */
  function press(event: PointerEvent, cut: number): void {
    if (event.button !== 0) return
    const target = event.currentTarget as SVGElement
    target.setPointerCapture(event.pointerId)
    dragged.value = cut
    before = atOf(cut)
    from = line.pointer(event) - line.along()(Number(before))
    target.focus()
  }

  function drag(event: PointerEvent): void {
    if (dragged.value === null) return
    const value = valueUnder(event, from)
    if (value !== atOf(dragged.value)) acts.move(dragged.value, value, `drag ${line.name}${dragged.value}`)
  }

  function release(): void {
    if (dragged.value === null) return
    dragged.value = null
    acts.moved()
  }

  function stepped(at: DecimalText, steps: number, step: Decimal): DecimalText {
    return line.stepped ? String(line.stepped(Number(at), steps, step.toNumber())) : nudged(at, steps, step)
  }

  function key(event: KeyboardEvent, cut: number): void {
    if (event.ctrlKey || event.metaKey) return
    const steps = line.steps[event.key]
    if (event.key === 'Escape' && dragged.value === cut) {
      // The post goes back to where it was.
      acts.move(cut, before, `drag ${line.name}${cut}`)
      release()
    } else if (steps !== undefined) acts.move(cut, stepped(atOf(cut), steps * (event.shiftKey ? 10 : 1), keyStep(line.along(), line.places(), event.altKey)), `nudge ${line.name}${cut}`)
    else if (event.key === 'Delete' || event.key === 'Backspace') acts.remove(cut)
    else if (event.key.toLowerCase() === 'o') acts.owner(cut)
    else if (event.key === 'Enter') acts.type(cut)
    else return
    event.preventDefault()
    event.stopPropagation()
  }

  return { dragged, press, drag, release, key, valueUnder }
}
