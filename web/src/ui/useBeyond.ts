import { useEffect, useState, type RefObject } from 'react'

export type Beyond = { readonly before: boolean; readonly after: boolean }

/** A pixel's rounding is nothing beyond the edge. */
const SLACK_PX = 4

/** Whether a scrolled length has something before and after what is shown. */
export const beyondOf = (scrolled: number, shown: number, whole: number): Beyond => ({
  before: scrolled > SLACK_PX,
  after: whole - shown - scrolled > SLACK_PX,
})

/** What lies beyond the edges of a box that scrolls, as it scrolls, grows or is filled anew. */
export function useBeyond(box: RefObject<HTMLElement | null>, across: boolean): Beyond {
  const [beyond, setBeyond] = useState<Beyond>({ before: false, after: false })
  useEffect(() => {
    const at = box.current
    if (!at) return
    const look = () => {
      const now = across
        ? beyondOf(at.scrollLeft, at.clientWidth, at.scrollWidth)
        : beyondOf(at.scrollTop, at.clientHeight, at.scrollHeight)
      setBeyond((had) => (had.before === now.before && had.after === now.after ? had : now))
    }
    const sizes = new ResizeObserver(look)
    const watch = () => {
      sizes.disconnect()
      for (const one of [at, ...at.children]) sizes.observe(one)
      look()
    }
    const filled = new MutationObserver(watch)
    filled.observe(at, { childList: true })
    at.addEventListener('scroll', look, { passive: true })
    watch()
    return () => {
      sizes.disconnect()
      filled.disconnect()
      at.removeEventListener('scroll', look)
    }
  }, [box, across])
  return beyond
}
