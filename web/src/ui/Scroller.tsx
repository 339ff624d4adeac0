import { ChevronDown, ChevronLeft, ChevronRight, ChevronUp } from 'lucide-react'
import { useEffect, useRef, type ComponentProps } from 'react'
import { useBeyond } from './useBeyond'

type Props = ComponentProps<'div'> & {
  /** How the whole takes its room; `className` is the inside's. */
  outer?: string
  across?: boolean
  /** Its end is what is wanted first. */
  fromEnd?: boolean
}

const SHARE = 0.8

/** What may be larger than its room: an edge with something beyond it says so, and a press goes there. */
export function Scroller({
  outer = '',
  across = false,
  fromEnd = false,
  className = '',
  children,
  ...rest
}: Props) {
  const inside = useRef<HTMLDivElement>(null)
  useEffect(() => {
    if (fromEnd)
      inside.current?.scrollTo({ left: inside.current.scrollWidth, top: inside.current.scrollHeight })
  }, [fromEnd])
  const beyond = useBeyond(inside, across)
  const go = (way: 1 | -1) => {
    const at = inside.current
    if (!at) return
    const by = way * SHARE * (across ? at.clientWidth : at.clientHeight)
    at.scrollBy({ left: across ? by : 0, top: across ? 0 : by })
  }
  return (
    <div
      className={`relative flex min-h-0 min-w-0 flex-col ${outer}`}
      data-beyond={beyond.before || beyond.after || undefined}
    >
      <div
        ref={inside}
        className={`relative min-h-0 flex-1 ${across ? 'overflow-x-auto' : 'overflow-y-auto'} ${className}`}
        {...rest}
      >
        {children}
      </div>
      {beyond.before && <Edge at={across ? 'left' : 'top'} onPress={() => go(-1)} />}
      {beyond.after && <Edge at={across ? 'right' : 'bottom'} onPress={() => go(1)} />}
    </div>
  )
}

const EDGES = {
  top: { Icon: ChevronUp, place: 'inset-x-0 top-0 justify-end' },
  bottom: { Icon: ChevronDown, place: 'inset-x-0 bottom-0 justify-end' },
  left: { Icon: ChevronLeft, place: 'inset-y-0 left-0 items-center' },
  right: { Icon: ChevronRight, place: 'inset-y-0 right-0 items-center' },
} as const

/** Keys and screen readers go past it by themselves. */
function Edge({ at, onPress }: { at: keyof typeof EDGES; onPress: () => void }) {
  const { Icon, place } = EDGES[at]
  return (
    <span aria-hidden className={`pointer-events-none absolute z-10 flex p-1 ${place}`} data-more={at}>
      <span
        onClick={onPress}
        className="pointer-events-auto flex min-h-8 cursor-pointer items-center rounded-full border border-rule bg-sheet px-2 text-sm shadow-sm"
      >
        {(at === 'bottom' || at === 'top') && <span className="pl-1">more</span>}
        <Icon size={18} />
      </span>
    </span>
  )
}
