import { useLayoutEffect, type RefObject } from 'react'

/** How much larger than usual letters may be, the largest first; the last is taken whether it fits or not. */
const SCALES = [2, 1.9, 1.8, 1.7, 1.6, 1.5, 1.4, 1.3, 1.2, 1.1, 1, 0.9] as const
const USUAL_PX = 16

/** The first of these scales at which what is asked says that all is in its room. */
export const largestThatFits = (fits: (scale: number) => boolean, scales: readonly number[] = SCALES) =>
  scales.find(fits) ?? scales[scales.length - 1] ?? 1

/** Letters as large as the room takes them: sets the size of what is given, whose parts are sized in em, so that it
 * does not run over its parent. */
export function useFitted(words: RefObject<HTMLElement | null>) {
  useLayoutEffect(() => {
    const at = words.current
    const room = at?.parentElement
    if (!at || !room) return
    const fit = () => {
      largestThatFits((scale) => {
        at.style.fontSize = `${scale * USUAL_PX}px`
        return room.scrollHeight <= room.clientHeight && at.scrollWidth <= at.clientWidth
      })
    }
    const sizes = new ResizeObserver(fit)
    sizes.observe(room)
    fit()
    return () => sizes.disconnect()
  })
}
