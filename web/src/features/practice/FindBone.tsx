import { Check } from 'lucide-react'
import { useState, type PointerEvent } from 'react'
import { imagePoint, screenPoint, toImage } from '../../sheet/points'
import { viewWords } from '../../shared/words'
import { Button } from '../../ui/Button'
import type { Answering, DrillProps } from './DrillScreen'
import { PracticeHead } from './PracticeHead'
import { Sheet } from './Sheet'

/** Marks on a coated head; then the coat is off. */
export function FindBone({ answering, top, foot }: DrillProps) {
  const { state, act, shown } = answering
  const { task, draft } = state
  const [coat, setCoat] = useState(false)
  const misses = shown?.told.drill === 'bone' ? shown.told.misses : []
  const head = task.photo ? (
    <MarkedPhoto answering={answering} coat={coat} />
  ) : (
    <PracticeHead
      task={task}
      depths="bare"
      state={shown && !coat ? 1 : 0}
      turns={false}
      label={`A head from the ${viewWords(task.view ?? 'front')}; press, or move with the arrow keys and press Enter, to set a mark`}
      mine={Object.entries(draft.marks).map(([id, at]) => ({ id, words: wordsOf(task.marks, id), at }))}
      truth={Object.entries(shown?.marks_mm ?? {}).map(([id, at]) => ({ id, at }))}
      onPoint={shown ? null : (at, ray) => act({ type: 'mark', at: { ...at, ray } })}
    />
  )
  return (
    <Sheet head={head} top={top} foot={foot} told={shown !== null}>
      {shown ? (
        <>
          {(task.scene ?? task.photo?.under) && (
            <Button className="self-start" aria-pressed={coat} onClick={() => setCoat(!coat)}>
              {coat ? (task.photo ? 'Wet him' : 'Take the coat off') : 'With the coat'}
            </Button>
          )}
          <ul className="flex flex-col gap-1.5" aria-label="Your marks">
            {misses.map((miss) => (
              <li key={miss.mark} className="flex items-baseline gap-2" data-miss={miss.mark}>
                <b className="min-w-0 flex-1">{wordsOf(task.marks, miss.mark)}</b>
                <span className={miss.off_mm > 6 ? 'font-semibold text-warn' : ''}>{miss.words}</span>
              </li>
            ))}
          </ul>
        </>
      ) : (
        <ol className="flex flex-col gap-1.5">
          {task.marks.map((mark) => (
            <li key={mark.id}>
              <button
                onClick={() => act({ type: 'choose', mark: mark.id })}
                aria-current={draft.active === mark.id ? 'step' : undefined}
                data-mark={mark.id}
                className="flex min-h-12 w-full flex-col items-start justify-center rounded-lg border border-rule bg-paper px-3 py-1.5 text-left aria-[current=step]:border-2 aria-[current=step]:border-cut"
              >
                <span className="flex w-full items-center gap-2 font-semibold">
                  {mark.words}
                  {mark.id in draft.marks && <Check size={18} className="ml-auto" aria-label="set" />}
                </span>
                {draft.active === mark.id && <span className="text-quiet">{mark.feel}</span>}
              </button>
            </li>
          ))}
        </ol>
      )}
    </Sheet>
  )
}

const wordsOf = (marks: Answering['state']['task']['marks'], id: string) =>
  marks.find((mark) => mark.id === id)?.words ?? id

/** A photographed dog; afterwards wet, where it was photographed wet. */
function MarkedPhoto({ answering, coat }: { answering: Answering; coat: boolean }) {
  const { state, act, shown } = answering
  const { photo, marks } = state.task
  const [svg, setSvg] = useState<SVGSVGElement | null>(null)
  const [cursor, setCursor] = useState<{ x: number; y: number } | null>(null)
  if (!photo) return null
  const under = shown && !coat && photo.under
  const unit = photo.width_px / 900
  const set = (x: number, y: number) => act({ type: 'mark', at: { x, y, ray: null } })
  const down = (event: PointerEvent) => {
    if (!svg || shown) return
    const at = toImage(svg, screenPoint(event.clientX, event.clientY))
    set(at.x, at.y)
  }
  return (
    <svg
      ref={setSvg}
      viewBox={`0 0 ${photo.width_px} ${photo.height_px}`}
      className="absolute inset-0 size-full touch-none bg-[#20302b]"
      role="application"
      tabIndex={0}
      aria-label={`${photo.dog}; press, or move with the arrow keys and press Enter, to set a mark`}
      data-practice-photo={photo.dog}
      onPointerDown={down}
      onKeyDown={(event) => {
        const by = event.shiftKey ? 2 : 10
        const move = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[
          event.key
        ]
        const here = cursor ?? imagePoint(photo.width_px / 2, photo.height_px / 2)
        if (move) setCursor({ x: here.x + (move[0] ?? 0), y: here.y + (move[1] ?? 0) })
        else if (event.key === 'Enter' && cursor && !shown) set(cursor.x, cursor.y)
        else return
        event.preventDefault()
        event.stopPropagation()
      }}
    >
      <image href={under || photo.url} width={photo.width_px} height={photo.height_px} />
      {!under &&
        Object.entries(state.draft.marks).map(([id, at]) => {
          const there = shown?.marks_px[id]
          return (
            <g key={id} data-mine={id}>
              {there && (
                <line
                  x1={at.x}
                  y1={at.y}
                  x2={there[0]}
                  y2={there[1]}
                  className="stroke-tape"
                  strokeWidth={3 * unit}
                  strokeDasharray={`${4 * unit} ${4 * unit}`}
                />
              )}
              <circle
                cx={at.x}
                cy={at.y}
                r={6 * unit}
                className="fill-off stroke-sheet"
                strokeWidth={2 * unit}
              />
              <text
                x={at.x + 10 * unit}
                y={at.y + 5 * unit}
                fontSize={15 * unit}
                className="fill-white font-semibold"
              >
                {wordsOf(marks, id)}
              </text>
            </g>
          )
        })}
      {!under &&
        Object.entries(shown?.marks_px ?? {}).map(([id, at]) => (
          <circle
            key={id}
            data-true={id}
            cx={at[0]}
            cy={at[1]}
            r={8 * unit}
            className="fill-none stroke-glint"
            strokeWidth={2.5 * unit}
          />
        ))}
      {cursor && !shown && (
        <circle
          cx={cursor.x}
          cy={cursor.y}
          r={12 * unit}
          className="fill-none stroke-tape"
          strokeWidth={2 * unit}
        />
      )}
    </svg>
  )
}
